import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import type { Diagram } from '../../api/client';
import { diagramQuery } from '../../api/queries';
import { Await, PageHead } from '../../parts/Page';
import { Refusal } from '../../parts/Refusal';
import { w } from '../../words/words';
import { useDiagramActions } from './actions';
import { DiagramEditor } from './DiagramEditor';
import { StoneDesk } from './StoneDesk';
import { TierTable } from './TierTable';
import { useSolved } from './useSolved';

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

function DiagramSheet({ diagram: d }: { diagram: Diagram }) {
  const navigate = useNavigate();
  const [params, setParams] = useSearchParams();
  const actions = useDiagramActions();
  const { solved, shown } = useSolved(d.draft);
  const selected = params.get('tier');
  const select = (tier: string | null) => {
    const next = new URLSearchParams(params);
    if (tier === null) next.delete('tier');
    else next.set('tier', tier);
    setParams(next, { replace: true });
  };
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
          d.starter ? w.diagrams.starter : d.edited ? w.diagrams.notKept : '',
        ]}
      >
        <Button
          onClick={() => actions.remove.mutate(d, { onSuccess: () => void navigate('/diagrams') })}
        >
          {w.diagrams.delete}
        </Button>
        <Button
          onClick={() =>
            actions.copy.mutate(d.id, { onSuccess: (c) => void navigate(`/diagrams/${c.id}`) })
          }
        >
          {w.diagrams.copy}
        </Button>
        {d.revision && (
          <Button href={`/api/diagrams/${d.id}/file`} download>
            {w.diagrams.export}
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
      <Box sx={{ px: 6 }}>
        <Refusal error={actions.keep.error} />
      </Box>
      <StoneDesk
        stone={shown}
        problems={solved?.problems ?? []}
        warnings={solved?.warnings ?? []}
        selected={selected}
        onSelect={select}
        note={d.draft.note}
      >
        {shown && <TierTable stone={shown} selected={selected} onSelect={select} />}
      </StoneDesk>
    </>
  );
}
