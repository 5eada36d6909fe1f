import { cleanup, fireEvent, screen } from '@testing-library/react';
import { useState } from 'react';
import { afterEach, expect, test } from 'vitest';
import type { Spot } from '../../api/client';
import { renderInApp } from '../../testing/app';
import { libraryWords } from '../../words/library';
import { nearestSide, OutlinePad } from './OutlinePad';

afterEach(cleanup);

const square: Spot[] = [
  { x: -1, y: 1 },
  { x: 1, y: 1 },
  { x: 1, y: -1 },
  { x: -1, y: -1 },
];
const p = libraryWords.quick.pad;

test('a new corner goes into the side that it lies nearest to', () => {
  expect(nearestSide(square, { x: 0, y: 2 })).toBe(0);
  expect(nearestSide(square, { x: 1.5, y: 0 })).toBe(1);
  expect(nearestSide(square, { x: -1.2, y: 0.1 })).toBe(3);
});

test('corners are moved and taken out with keys, and never fewer than three', () => {
  const now = { corners: square };
  function Shown() {
    const [corners, setCorners] = useState(square);
    now.corners = corners;
    return <OutlinePad corners={corners} onChange={setCorners} />;
  }
  renderInApp(<Shown />);
  fireEvent.keyDown(screen.getByLabelText(p.corner(2)), { key: 'ArrowRight' });
  expect(now.corners[1]).toEqual({ x: 1.1, y: 1 });
  fireEvent.keyDown(screen.getByLabelText(p.corner(4)), { key: 'Delete' });
  expect(now.corners).toHaveLength(3);
  fireEvent.keyDown(screen.getByLabelText(p.corner(1)), { key: 'Delete' });
  expect(now.corners).toHaveLength(3);
});
