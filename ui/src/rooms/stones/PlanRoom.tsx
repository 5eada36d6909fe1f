import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { useState } from 'react';
import type { Choices, Diagram, Settings } from '../../api/client';
import { diagramQuery, proposalQuery } from '../../api/diagrams';
import { ranges } from '../../api/ranges';
import { pieceQuery } from '../../api/rough';
import { settingsQuery } from '../../api/settings';
import { planRun, planStone, stoneLineQuery } from '../../api/stones';
import { Await, PageHead } from '../../parts/Page';
import { NumberField } from '../../parts/fields/NumberField';
import { PickField } from '../../parts/fields/PickField';
import { gluingWords } from '../../words/gluing';
import { plain } from '../../words/numbers';
import { runWords } from '../../words/runs';
import { workWords } from '../../words/works';
import { w } from '../../words/words';
import { DiagramChoice } from '../../parts/diagram/DiagramChoice';
import { NewRecut } from './NewRecut';
import { PlanFrame } from './PlanFrame';
import { useBrought } from './useBrought';

/**
 * Plans a new stone, or a finished one anew: first the diagram, then what it is cut from and how
 * large.
 */
export function PlanRoom() {
  const [params] = useSearchParams();
  const settings = useQuery(settingsQuery);
  const id = params.get('diagram');
  const diagram = useQuery({ ...diagramQuery(id ?? ''), enabled: id !== null });
  const again = params.get('stone');
  const proposal = useQuery({ ...proposalQuery(id ?? '', again ?? ''), enabled: id !== null });
  const stone = useQuery({ ...stoneLineQuery(again ?? ''), enabled: again !== null });
  if (id === null) return <ChooseDiagram again={again} />;
  return (
    <Await query={diagram}>
      {(d) => (
        <Await query={settings}>
          {(s) => (
            <Await query={proposal}>
              {(p) =>
                again === null ? (
                  <NewPlan key={d.id} diagram={d} settings={s} proposal={wished(p, params)} />
                ) : (
                  <Await query={stone}>
                    {(of) => (
                      <NewRecut key={d.id} stone={of} diagram={d} settings={s} proposal={p} />
                    )}
                  </Await>
                )
              }
            </Await>
          )}
        </Await>
      )}
    </Await>
  );
}

/** A proposal for the material and the width in mm that the address asks for, if it does. */
function wished(p: Choices, params: URLSearchParams): Choices {
  const width = Number(params.get('width'));
  return {
    ...p,
    material: params.get('material') ?? p.material,
    size: width > 0 ? { basis: 'width', mm: width, tier: '', typed: plain(width) } : p.size,
  };
}

function ChooseDiagram({ again }: { again: string | null }) {
  return (
    <>
      <PageHead title={again === null ? w.stones.chooseDiagram : workWords.recutFrom}>
        <Button component={Link} to="/diagrams">
          {w.rooms.diagrams}
        </Button>
      </PageHead>
      <DiagramChoice stone={again} />
    </>
  );
}

function NewPlan({
  diagram,
  settings,
  proposal,
}: {
  diagram: Diagram;
  settings: Settings;
  proposal: Choices;
}) {
  const [params] = useSearchParams();
  const pieceId = params.get('piece') ?? '';
  const piece = useQuery({ ...pieceQuery(pieceId), enabled: pieceId !== '' }).data;
  const {
    choices,
    setChoices,
    text: name,
    setText: setName,
    fit,
  } = useBrought(proposal, '', pieceId);
  const navigate = useNavigate();
  const [stones, setStones] = useState(1);
  const [order, setOrder] = useState<'tier' | 'stone'>('tier');
  const one = useMutation(planStone);
  const several = useMutation(planRun);
  const keep = () => {
    const plan = { name, diagramId: diagram.id, choices };
    if (stones === 1)
      one.mutate(
        { ...plan, piece: pieceId },
        { onSuccess: (s) => void navigate(`/stones/${s.id}`) },
      );
    else
      several.mutate(
        { ...plan, name: name || diagram.facts!.name, order, stones },
        { onSuccess: (r) => void navigate(`/runs/${r.id}`) },
      );
  };
  return (
    <PlanFrame
      title={w.stones.planTitle}
      facts={[
        diagram.facts!.name,
        piece ? gluingWords.source.piece(piece.number, piece.rough.name) : '',
      ]}
      keep={stones === 1 ? w.stones.keep : runWords.keep(stones)}
      onKeep={keep}
      isPending={one.isPending || several.isPending}
      error={one.error ?? several.error}
      diagramId={diagram.id}
      revision=""
      choices={choices}
      onChange={setChoices}
      settings={settings}
      onFit={fit}
    >
      <Box sx={{ display: 'flex', gap: 3, mb: 3, flexWrap: 'wrap' }}>
        <TextField
          label={w.stones.name}
          placeholder={w.stones.namePlaceholder}
          value={name}
          onChange={(e) => setName(e.target.value)}
          sx={{ flex: '1 1 240px' }}
        />
        <NumberField
          label={runWords.count}
          {...ranges.RunRequest.stones}
          min={1}
          value={stones}
          onChange={setStones}
          width={110}
        />
        {stones > 1 && (
          <PickField
            label={runWords.order}
            value={order}
            options={runWords.orders}
            onChange={setOrder}
            width={170}
          />
        )}
      </Box>
    </PlanFrame>
  );
}
