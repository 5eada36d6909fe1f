import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { useState, type ReactNode } from 'react';
import { afterEach, expect, test, vi } from 'vitest';
import type { StoneView, Tier } from '../../api/client';
import { cube } from '../../testing/cube';
import { Themed } from '../../testing/themed';
import { renderInApp } from '../../testing/app';
import { editingWords } from '../../words/editing';
import { w } from '../../words/words';
import { lookingAt } from './geometry';
import type { RingMark } from './grab';
import { momentOf, StepSlider } from './StepSlider';
import { StoneFaces } from './StoneFaces';
import { TierTable } from './TierTable';

afterEach(cleanup);

const draw = (part: ReactNode) =>
  render(
    <Themed>
      <svg>{part}</svg>
    </Themed>,
  );

test('facets can be picked, the rough cannot', () => {
  const onPick = vi.fn();
  const { container } = draw(
    <>
      <StoneFaces mesh={cube} step={1} camera={lookingAt('crown')} pixel={0.01} onPick={onPick} />
      <StoneFaces
        mesh={cube}
        step={1}
        camera={lookingAt('pavilion')}
        pixel={0.01}
        onPick={onPick}
      />
    </>,
  );
  const faces = [...container.querySelectorAll('polygon')];
  expect(faces.map((f) => f.dataset.facet)).toEqual(['0', '-1']);
  faces.forEach((f) => fireEvent.click(f));
  expect(onPick.mock.calls).toEqual([[0]]);
});

test('what is selected and what is being cut are told apart', () => {
  const fill = (marks: object) => {
    const { container, unmount } = draw(
      <StoneFaces mesh={cube} step={1} camera={lookingAt('crown')} pixel={0.01} {...marks} />,
    );
    const colour = container.querySelector('polygon')!.getAttribute('fill');
    unmount();
    return colour;
  };
  const fills = [{}, { selected: new Set([0]) }, { now: 0 }].map(fill);
  expect(new Set(fills).size).toBe(3);
});

test('rings in sight can be pressed by mouse and keys, those behind the stone are not there', () => {
  const pressed: string[] = [];
  const ring = (n: number, z: number, label: string): RingMark => ({
    n,
    at: [0, 0, z],
    label,
    chosen: n === 1,
    run: () => pressed.push(label),
  });
  draw(
    <StoneFaces
      mesh={cube}
      step={1}
      camera={lookingAt('crown')}
      pixel={0.01}
      rings={[ring(1, 0.5, 'the table'), ring(2, -1, 'the culet')]}
    />,
  );
  const [only, ...others] = screen.getAllByRole('button');
  expect(others).toEqual([]);
  expect(only!.getAttribute('aria-label')).toBe('the table');
  expect(only!.getAttribute('aria-pressed')).toBe('true');
  expect(only!.getAttribute('tabindex')).toBe('0');
  fireEvent.click(only!);
  for (const key of ['Enter', ' ', 'x']) fireEvent.keyDown(only!, { key });
  expect(pressed).toEqual(['the table', 'the table', 'the table']);
});

function Walk({ seen }: { seen: number[] }) {
  const [step, setStep] = useState(1);
  const to = (s: number) => {
    seen.push(s);
    setStep(s);
  };
  return <StepSlider last={3} step={step} text={`step ${step}`} onStep={to} />;
}

test('the cutting is walked by arrow keys and buttons, and ends at both ends', () => {
  const seen: number[] = [];
  renderInApp(<Walk seen={seen} />);
  const press = (...keys: string[]) =>
    keys.forEach((key) => fireEvent.keyDown(document.body, { key }));
  press('ArrowRight', 'ArrowRight', 'ArrowRight', 'Home', 'ArrowLeft', 'End');
  expect(seen).toEqual([2, 3, 3, 0, 0, 3]);
  fireEvent.click(screen.getByLabelText(w.drawing.back));
  expect(screen.getByText('step 2')).toBeTruthy();
  expect(screen.getByRole('slider').getAttribute('aria-valuetext')).toBe('step 2');
});

const tier = (change: Partial<Tier>): Tier =>
  ({
    key: 't1',
    name: 'P1',
    part: 'pavilion',
    angle: 42.5,
    dials: [{ tooth: 96, cheat: 0 }],
    stop: 'to a centre point',
    note: '',
    optional: false,
    leftOff: false,
    margin: null,
    ...change,
  }) as Tier;

const stone = {
  mesh: cube,
  facets: [{ tier: 0, dial: { tooth: 48 } }],
  tiers: [
    tier({}),
    tier({
      key: 't2',
      name: 'C4',
      optional: true,
      dials: [{ tooth: 3, cheat: 1.5, leastCheat: 0 }] as never,
    }),
  ],
} as unknown as StoneView;

test('a moment of the cutting is named by what was cut last', () => {
  expect(momentOf(stone, 0)).toBe(w.drawing.stepNone);
  expect(momentOf(stone, 1)).toBe(w.drawing.stepAt('P1', '48', 1, 1));
});

test('a tier is selected and put back, and one that may be left off is so without being selected', () => {
  const selected: (string | null)[] = [];
  const off: string[] = [];
  const show = (now: string | null) =>
    render(
      <Themed>
        <TierTable
          stone={stone}
          selected={now}
          onSelect={(t) => selected.push(t)}
          onOff={(t) => off.push(t)}
        />
      </Themed>,
    );
  const { unmount } = show(null);
  fireEvent.click(screen.getByText('P1'));
  fireEvent.click(screen.getByText('C4'));
  unmount();
  show('t1');
  fireEvent.click(screen.getByText('P1'));
  fireEvent.click(screen.getByText(editingWords.tier.off('C4')));
  expect(selected).toEqual(['t1', 't2', null]);
  expect(off).toEqual(['t2']);
});
