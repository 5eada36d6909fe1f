import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import type { DiagramPage } from '../../api/client';
import { diagramQuery } from '../../api/diagrams';
import { useUsualLighting } from '../../parts/light/useUsualLighting';
import { MenuButton } from '../../parts/MenuButton';
import { Await, Care, PageHead } from '../../parts/Page';
import { Refusal } from '../../parts/forms/Refusal';
import { editingWords } from '../../words/editing';
import { freehandWords } from '../../words/freehand';
import { libraryWords } from '../../words/library';
import { sheetWords } from '../../words/sheet';
import { solidWords } from '../../words/solids';
import { w } from '../../words/words';
import { BeforeCutting } from './BeforeCutting';
import { useDiagramActions } from '../../parts/diagram/useDiagramActions';
import { DiagramEditor } from './editor/DiagramEditor';
import { DieDialog } from './DieDialog';
import { DifficultyPanel } from './DifficultyPanel';
import { GearPanel } from './GearPanel';
import { SenseCheck } from './SenseCheck';
import { StoneDesk } from '../../parts/stone/StoneDesk';
import { TierTable } from '../../parts/stone/TierTable';
import { useSelectedTier } from '../../parts/stone/useSelectedTier';
import { useLeftOff, useSolved } from '../../parts/stone/useSolved';

/** One diagram: looked at, or typed and changed. */
export function DiagramRoom() {
  const { id = '' } = useParams();
  const diagram = useQuery(diagramQuery(id));
  const [params] = useSearchParams();
  return (
    <Await query={diagram}>
      {(d) =>
        params.has('edit') && !d.starter ? (
          <DiagramEditor key={d.id} diagram={d} />
        ) : (
          <DiagramSheet diagram={d} />
        )
      }
    </Await>
  );
}

function DiagramSheet({ diagram: d }: { diagram: DiagramPage }) {
  const navigate = useNavigate();
  const [, setParams] = useSearchParams();
  const actions = useDiagramActions();
  const [gear, setGear] = useState(0);
  const [die, setDie] = useState(false);
  const [off, toggleOff] = useLeftOff();
  const { solved, shown, whole } = useSolved(d.draft, { gear, off });
  const { data: lighting } = useUsualLighting(d);
  const { judged, variants } = d;
  const together = [d.id, ...variants.filter((o) => o.id !== d.id).map((o) => o.id)].slice(0, 4);
  const vary = () =>
    actions.vary.mutate(
      { id: d.id },
      { onSuccess: (v) => void navigate(`/diagrams/${v.id}?edit=1`) },
    );
  const [selected, select] = useSelectedTier();
  const edit = () =>
    d.starter
      ? actions.copy.mutate(d.id, { onSuccess: (c) => void navigate(`/diagrams/${c.id}?edit=1`) })
      : setParams({ edit: '1' });
  return (
    <>
      <PageHead
        title={d.draft.name || w.diagrams.noName}
        facts={[
          d.draft.outline,
          w.diagrams.teeth(Number(d.draft.gear)),
          `n ${d.draft.refractiveIndex}`,
          d.draft.designer,
          d.origin && libraryWords.from(d.origin),
          d.starter ? w.diagrams.starter : d.edited ? w.diagrams.notKept : '',
        ]}
      >
        <MenuButton
          label={editingWords.more}
          entries={[
            { label: editingWords.variants.vary, run: vary },
            {
              label: editingWords.variants.compare,
              run: () => void navigate(`/diagrams/compare?ids=${together.join(',')}`),
            },
            ...(d.revision ? [{ label: solidWords.die, run: () => setDie(true) }] : []),
            {
              label: w.diagrams.copy,
              run: () =>
                actions.copy.mutate(d.id, { onSuccess: (c) => void navigate(`/diagrams/${c.id}`) }),
            },
            {
              label: w.diagrams.delete,
              run: () =>
                actions.remove({ id: d.id, name: d.draft.name }, () => void navigate('/diagrams')),
            },
          ]}
        />
        {d.freehand && (
          <Button component={Link} to={`/freehand/${d.id}`} variant="contained">
            {freehandWords.goOn}
          </Button>
        )}
        {d.revision && (
          <MenuButton
            label={libraryWords.exportAs}
            entries={Object.entries(libraryWords.formats).map(([format, label]) => ({
              label,
              href: `/api/diagrams/${d.id}/file/${format}`,
            }))}
          />
        )}
        {d.revision && (
          <Button component={Link} to={`/diagrams/${d.id}/sheet`}>
            {sheetWords.sheet}
          </Button>
        )}
        <Button onClick={edit}>{d.starter ? w.diagrams.editCopy : w.diagrams.edit}</Button>
        {d.edited && (
          <Button variant="contained" onClick={() => actions.keep.mutate(d)}>
            {w.diagrams.keep}
          </Button>
        )}
        {d.revision && (
          <Button
            component={Link}
            to={`/stones/new?diagram=${d.id}`}
            variant={d.edited ? 'outlined' : 'contained'}
          >
            {w.diagrams.plan}
          </Button>
        )}
      </PageHead>
      {die && <DieDialog id={d.id} onClose={() => setDie(false)} />}
      <Box sx={{ px: 6 }}>
        <Refusal error={actions.keep.error ?? actions.vary.error} />
      </Box>
      <StoneDesk
        stone={shown}
        problems={solved?.problems ?? []}
        warnings={solved?.warnings ?? []}
        selected={selected}
        onSelect={select}
        note={d.draft.note}
        light={lighting && { draft: whole, lighting }}
      >
        {gear !== 0 && <Care>{editingWords.gears.shown(gear)}</Care>}
        {shown && (
          <TierTable stone={shown} selected={selected} onSelect={select} onOff={toggleOff} />
        )}
        {solved?.stone && <BeforeCutting diagram={d} solved={solved} />}
        {solved?.stone?.complete && (
          <>
            <GearPanel draft={d.draft} shown={gear} onShow={setGear} />
            {judged && <DifficultyPanel judged={judged} />}
          </>
        )}
      </StoneDesk>
      <SenseCheck diagram={d} solved={solved} />
    </>
  );
}
