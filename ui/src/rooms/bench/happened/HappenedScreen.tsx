import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useRef, useState, type ReactNode } from 'react';
import { addPhotos } from '../../../api/stones';
import type { BenchScript } from '../../../api/client';
import type { Happened, LogEvent } from '../../../log/events';
import { visitOf, type BenchState } from '../../../log/standing';
import { NumberField } from '../../../parts/fields/NumberField';
import { Refusal } from '../../../parts/forms/Refusal';
import { useKeys } from '../../../parts/keys';
import type { Vec } from '../../../parts/stone/geometry';
import type { StoneLog } from '../../../parts/work/useStoneLog';
import { mendingWords } from '../../../words/mending';
import { plain, thousandths } from '../../../words/numbers';
import { wheelWords as t } from '../../../words/wheel';
import { w } from '../../../words/words';
import { FacetPick } from '../FacetPick';
import { MarkedStone } from '../MarkedStone';
import { Panel } from '../Panel';
import { cutSoFar, facetName, lastCut } from '../work';
import { choices, girdleOf, usualDepths, type Choice } from './choices';

interface Props {
  script: BenchScript;
  state: BenchState;
  log: StoneLog;
  /** Place of the visit on the screen, undefined where no facet stands there. */
  shown: number | undefined;
  /** What it was, where its key was pressed. */
  first: Choice | undefined;
  onClose: () => void;
  onOrder: () => void;
  onWays: () => void;
  /** Goes to what is left for the other side, undefined while the first is cut. */
  onLeft: (() => void) | undefined;
}

/** Something happened: what, how much, and what now. */
export function HappenedScreen(props: Props) {
  const { script, state, log, shown, first, onClose } = props;
  const [choice, setChoice] = useState(first);
  const [made, setMade] = useState<LogEvent>();
  const [said, setSaid] = useState<Happened>();
  const places = cutSoFar(state, shown);
  // Most often it is the facet on the screen; between two facets it is the last one.
  const [at, setAt] = useState(shown ?? lastCut(state));
  const facet = at === undefined ? undefined : script.facets[script.visits[at]!.facet]!;
  const [point, setPoint] = useState<Vec>();
  // A touch tells the facet first, and then where on it.
  const touched = useRef<number>(undefined);
  const pointing = choice?.inside && !made;
  const pick = (no: number) => {
    const place = places.findLast((i) => script.facets[script.visits[i]!.facet]!.no === no);
    touched.current = place;
    if (place !== undefined) setAt(place);
  };
  // The last facet of the next setup in which any was cut.
  const setups = [...new Set(places.map((i) => script.visits[i]!.setup))];
  const over = () => {
    const next = (setups.indexOf(script.visits[at!]!.setup) + 1) % setups.length;
    setAt(places.findLast((i) => script.visits[i]!.setup === setups[next]));
    setPoint(undefined);
  };
  // What is not cut yet can be touched, too, and has no facet to lie under.
  const put = (p: Vec) => {
    setPoint(touched.current === undefined ? undefined : p);
    touched.current = undefined;
  };
  const keep = (more: Partial<Happened>) => {
    const [x, y, z] = (point ?? []).map((v) => v * script.mmPerUnit);
    const happened: Happened = {
      what: choice!.what,
      ...(at !== undefined &&
        (shown !== undefined || choice!.atFacet) && { at: visitOf(script, at) }),
      // Without a depth nothing is known to lie under it.
      ...(point && more.mm !== undefined && { point: [x!, y!, z!] }),
      ...more,
    };
    setSaid(happened);
    setMade(log.add([{ kind: 'happened', payload: happened }])[0]);
  };
  useKeys([
    ...(choice
      ? []
      : choices.map((c) => ({ keys: [c.key], label: t.whats[c.what], run: () => setChoice(c) }))),
  ]);
  const picture = (
    <MarkedStone
      script={script}
      // The facet on the screen is just being cut: it is drawn, too.
      step={Math.max(state.step, at === undefined ? 0 : script.visits[at]!.after)}
      setup={facet?.setup ?? script.setups.length - 1}
      facets={facet && choice?.atFacet ? [facet] : []}
      label={facet && choice?.atFacet ? facetName(script, at!) : w.bench.now}
      ring={choice?.inside ? point : undefined}
      onPick={choice?.atFacet && !made ? pick : undefined}
      onPoint={pointing ? put : undefined}
    />
  );
  if (!choice)
    return (
      <Panel title={t.happened} lead={t.happenedLead} onClose={onClose} picture={picture}>
        <Box
          sx={{
            display: 'grid',
            gap: 2,
            gridTemplateColumns: 'repeat(auto-fill, minmax(250px, 1fr))',
          }}
        >
          {choices.map((c) => (
            <Button
              key={c.what}
              variant="outlined"
              onClick={() => setChoice(c)}
              sx={{ minHeight: 88, fontSize: '1.375rem', justifyContent: 'space-between', px: 4 }}
            >
              {t.whats[c.what]}
              <Typography component="span" variant="figures" color="text.secondary" aria-hidden>
                {c.key}
              </Typography>
            </Button>
          ))}
        </Box>
        {props.onLeft && (
          <Button onClick={props.onLeft} sx={{ minHeight: 64, fontSize: '1.125rem', mt: 3 }}>
            {t.tooLow}
          </Button>
        )}
      </Panel>
    );
  const name = t.whats[choice.what];
  if (made && said)
    return (
      <Panel
        title={t.kept(name, at !== undefined && choice.atFacet ? facetName(script, at) : '')}
        onClose={onClose}
        close={t.goOn}
        likely
        picture={picture}
      >
        {said.mm !== undefined && facet && girdleOf(facet, said.mm) !== undefined && (
          <Typography sx={{ fontSize: '1.25rem', fontWeight: 600, mb: 2 }}>
            {t.takesGirdle(plain(said.mm), thousandths(girdleOf(facet, said.mm)!))}
          </Typography>
        )}
        {t.help[choice.what].map((line) => (
          <Typography key={line} sx={{ fontSize: '1.25rem', mb: 2, maxWidth: 900 }}>
            {line}
          </Typography>
        ))}
        <Box sx={{ display: 'flex', gap: 2, mt: 4 }}>
          {choice.mends && (
            <Button
              variant="contained"
              onClick={props.onWays}
              sx={{ minHeight: 64, fontSize: '1.25rem' }}
            >
              {mendingWords.open}
            </Button>
          )}
          <Button variant="outlined" onClick={props.onOrder} sx={{ minHeight: 64 }}>
            {t.order}
          </Button>
          <Button
            onClick={() => {
              log.add([{ kind: 'undo', payload: { undoes: made.id } }]);
              onClose();
            }}
            sx={{ minHeight: 64 }}
          >
            {t.takeBack}
          </Button>
        </Box>
      </Panel>
    );
  return (
    <Panel title={name} lead={t.lead[choice.what]} onClose={onClose} picture={picture}>
      {at !== undefined && choice.atFacet && (
        <Box sx={{ mb: 4 }}>
          <FacetPick
            script={script}
            places={places}
            at={at}
            onChange={(place) => {
              setAt(place);
              setPoint(undefined);
            }}
          />
          {setups.length > 1 && (
            <Button onClick={over} sx={{ minHeight: 64, mt: 1 }}>
              {t.otherSide}
            </Button>
          )}
          {choice.inside && <Typography sx={{ mt: 2 }}>{point ? t.pointed : t.point}</Typography>}
        </Box>
      )}
      <Figure key={choice.what} choice={choice} stone={script.stoneId} onKeep={keep} />
    </Panel>
  );
}

/** The figure that is asked, and the key that keeps it all. */
function Figure({
  choice,
  stone,
  onKeep,
}: {
  choice: Choice;
  stone: string;
  onKeep: (more: Partial<Happened>) => void;
}) {
  const [figure, setFigure] = useState<number>();
  const [text, setText] = useState('');
  const form = (field: ReactNode, ready: boolean, more: Partial<Happened>) => (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        if (ready) onKeep(more);
      }}
    >
      {field}
      <Button
        type="submit"
        variant="contained"
        autoFocus={choice.asks === ''}
        disabled={!ready}
        sx={{ minHeight: 88, minWidth: 320, fontSize: '1.5rem', mt: 4, display: 'block' }}
      >
        {t.keep}
      </Button>
    </form>
  );
  const number = (
    label: string,
    help: string,
    unit: string,
    range: [number, number],
    whole = false,
  ) => (
    <NumberField
      label={label}
      help={help}
      unit={unit}
      value={figure}
      optional=""
      min={range[0]}
      max={range[1]}
      whole={whole}
      width={320}
      autoFocus
      onChange={setFigure}
    />
  );
  const given = figure !== undefined;
  switch (choice.asks) {
    case 'depth':
      return form(
        <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
          <Box sx={{ width: '100%' }}>{number(t.howDeep, t.howDeepHelp, w.units.mm, [0, 20])}</Box>
          {usualDepths.map((mm) => (
            <Button
              key={mm}
              variant="outlined"
              aria-pressed={figure === mm}
              onClick={() => setFigure(mm)}
              sx={{ minHeight: 64, minWidth: 96, fontSize: '1.25rem' }}
            >
              {plain(mm)}
            </Button>
          ))}
        </Box>,
        true,
        given ? { mm: figure } : {},
      );
    case 'teeth':
      return form(number(t.teeth, t.teethHelp, '', [-180, 180], true), given, { by: figure! });
    case 'degrees':
      return form(number(t.degrees, t.degreesHelp, '°', [-90, 90]), given, { by: figure! });
    case 'cheat':
      return form(number(t.cheat, t.cheatHelp, '°', [-30, 30]), given, { by: figure! });
    case 'lap':
    case 'compound':
      return form(
        <TextField
          autoFocus
          label={choice.asks === 'lap' ? t.lapName : t.compoundName}
          value={text}
          onChange={(e) => setText(e.target.value)}
          slotProps={{ htmlInput: { maxLength: 60, autoComplete: 'off' } }}
          sx={{ width: 420 }}
        />,
        text.trim() !== '',
        { with: text.trim() },
      );
    case 'picture':
      return <Picture stone={stone} onKeep={() => onKeep({})} />;
    case '':
      return form(null, true, {});
  }
}

/** A picture is kept with those of the stone; that it was taken goes into the log. */
function Picture({ stone, onKeep }: { stone: string; onKeep: () => void }) {
  const input = useRef<HTMLInputElement>(null);
  const add = useMutation(addPhotos);
  return (
    <>
      <Button
        variant="contained"
        autoFocus
        disabled={add.isPending}
        onClick={() => input.current?.click()}
        sx={{ minHeight: 88, minWidth: 320, fontSize: '1.5rem' }}
      >
        {t.take}
      </Button>
      <input
        ref={input}
        type="file"
        accept="image/jpeg,image/png"
        capture="environment"
        hidden
        aria-label={t.take}
        onChange={(e) => {
          const files = [...(e.target.files ?? [])];
          e.target.value = '';
          if (files.length > 0) add.mutate({ stone, shows: 'after', files }, { onSuccess: onKeep });
        }}
      />
      <Refusal error={add.error} />
    </>
  );
}
