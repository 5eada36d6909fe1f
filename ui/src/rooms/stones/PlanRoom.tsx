import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { useState } from 'react';
import { answer, client, type Choices, type Diagram, type Settings } from '../../api/client';
import { diagramsQuery, proposalQuery, settingsQuery, stonesQuery } from '../../api/queries';
import { Await, PageHead } from '../../parts/Page';
import { Refusal } from '../../parts/Refusal';
import { w } from '../../words/words';
import { DiagramChoice } from './DiagramChoice';
import { PlanDesk } from './PlanDesk';

/** Plans a new stone: first the diagram, then what it is cut from and how large. */
export function PlanRoom() {
  const [params] = useSearchParams();
  const diagrams = useQuery(diagramsQuery);
  const settings = useQuery(settingsQuery);
  const id = params.get('diagram');
  const proposal = useQuery({ ...proposalQuery(id ?? ''), enabled: id !== null });
  return (
    <Await query={diagrams}>
      {(list) => {
        const diagram = list.find((d) => d.id === id && d.revision);
        return diagram ? (
          <Await query={settings}>
            {(s) => (
              <Await query={proposal}>
                {(p) => <NewPlan key={diagram.id} diagram={diagram} settings={s} proposal={p} />}
              </Await>
            )}
          </Await>
        ) : (
          <ChooseDiagram list={list.filter((d) => d.revision)} />
        );
      }}
    </Await>
  );
}

function ChooseDiagram({ list }: { list: Diagram[] }) {
  return (
    <>
      <PageHead title={w.stones.chooseDiagram}>
        <Button component={Link} to="/diagrams">
          {w.rooms.diagrams}
        </Button>
      </PageHead>
      <DiagramChoice list={list} />
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
  const [choices, setChoices] = useState<Choices>(proposal);
  const [name, setName] = useState('');
  const navigate = useNavigate();
  const queries = useQueryClient();
  const plan = useMutation({
    mutationFn: () =>
      answer(client.POST('/api/stones', { body: { name, diagramId: diagram.id, choices } })),
    onSuccess: (stone) => {
      void queries.invalidateQueries({ queryKey: stonesQuery.queryKey });
      void navigate(`/stones/${stone.id}`);
    },
  });
  return (
    <>
      <PageHead title={w.stones.planTitle} facts={[diagram.facts!.name]}>
        <Button variant="contained" onClick={() => plan.mutate()} disabled={plan.isPending}>
          {w.stones.keep}
        </Button>
      </PageHead>
      <Box sx={{ px: 6 }}>
        <Refusal error={plan.error} />
      </Box>
      <PlanDesk
        diagramId={diagram.id}
        revision=""
        choices={choices}
        onChange={setChoices}
        settings={settings}
      >
        <TextField
          label={w.stones.name}
          placeholder={w.stones.namePlaceholder}
          value={name}
          onChange={(e) => setName(e.target.value)}
          fullWidth
          sx={{ mb: 3 }}
        />
      </PlanDesk>
    </>
  );
}
