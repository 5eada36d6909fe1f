import TextField from '@mui/material/TextField';
import { useMutation } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import type { Choices, Diagram, Settings, StoneLine } from '../../api/client';
import { planRecut } from '../../api/stones';
import { carats, sizes } from '../../words/numbers';
import { workWords } from '../../words/works';
import { titleOf } from '../../parts/work/naming';
import { PlanFrame } from './PlanFrame';
import { useBrought } from './useBrought';

/** A finished stone is planned anew. */
export function NewRecut({
  stone,
  diagram,
  settings,
  proposal,
}: {
  stone: StoneLine;
  diagram: Diagram;
  settings: Settings;
  proposal: Choices;
}) {
  const { choices, setChoices, text: why, setText: setWhy, fit } = useBrought(proposal, stone.id);
  const navigate = useNavigate();
  const plan = useMutation(planRecut);
  const keep = () =>
    plan.mutate(
      { stone: stone.id, diagramId: diagram.id, choices, why, version: stone.version },
      { onSuccess: (s) => void navigate(`/stones/${s.id}`) },
    );
  const f = stone.finish;
  return (
    <PlanFrame
      title={workWords.recutTitle(`${stone.number} · ${titleOf(stone)}`)}
      facts={[
        diagram.facts!.name,
        f && f.finishedCarats > 0 ? carats(f.finishedCarats) : '',
        f && f.widthMM > 0 ? sizes(f.widthMM, f.lengthMM, f.heightMM) : '',
      ]}
      keep={workWords.keepRecut}
      onKeep={keep}
      isPending={plan.isPending}
      error={plan.error}
      diagramId={diagram.id}
      revision=""
      choices={choices}
      onChange={setChoices}
      settings={settings}
      onFit={fit}
    >
      <TextField
        label={workWords.why}
        placeholder={workWords.whyExample}
        value={why}
        onChange={(e) => setWhy(e.target.value)}
        fullWidth
        sx={{ mb: 3 }}
      />
    </PlanFrame>
  );
}
