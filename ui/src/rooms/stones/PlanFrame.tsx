import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { ComponentProps } from 'react';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { Refusal } from '../../parts/forms/Refusal';
import { PageHead } from '../../parts/Page';
import { w } from '../../words/words';
import { PlanDesk } from './PlanDesk';

interface Props extends ComponentProps<typeof PlanDesk> {
  title: string;
  facts: string[];
  /** What keeping the plan is called. */
  keep: string;
  onKeep: () => void;
  /** Leaves the plan as it was, where there was one. */
  onCancel?: () => void;
  isPending: boolean;
  error: Error | null;
}

/** A plan being made, with its head: it is kept as it is seen. */
export function PlanFrame(props: Props) {
  const { title, facts, keep, onKeep, onCancel, isPending, error, ...desk } = props;
  const { readable, report } = useReadable();
  return (
    <>
      <PageHead title={title} facts={facts}>
        {onCancel && <Button onClick={onCancel}>{w.common.cancel}</Button>}
        <Button variant="contained" onClick={onKeep} disabled={!readable || isPending}>
          {keep}
        </Button>
      </PageHead>
      <Box sx={{ px: 6 }}>
        <Refusal error={error} />
      </Box>
      <FormFields value={report}>
        <PlanDesk {...desk} />
      </FormFields>
    </>
  );
}
