import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useMutation } from '@tanstack/react-query';
import { takeOverStone } from '../../api/instruments';
import { log, sender } from '../../log/browser';
import { streamOf } from '../../log/events';
import { asCutWords as t } from '../../words/asCut';
import { Refusal } from '../forms/Refusal';
import { useInstruments } from '../instruments/useReadings';
import { useNotice } from '../notice';

/** Takes the stone that stands on a machine for this one. It is offered for what reads an index: calipers know no stone. */
export function TakeOver({ stone, work }: { stone: string; work: string }) {
  const machines = useInstruments().filter(
    (i) => i.here && i.now.some((r) => r.quantity === 'index'),
  );
  const take = useMutation(takeOverStone);
  const say = useNotice();
  if (machines.length === 0) return null;
  const takeFrom = (instrument: string, name: string) =>
    take.mutate(
      { stone, instrument },
      {
        onSuccess: ({ event }) =>
          say({
            text: t.takenOver(name),
            action: {
              label: t.takeBack,
              run: () => {
                log.add(streamOf(work), [{ kind: 'undo', payload: { undoes: event } }]);
                void sender.send();
              },
            },
          }),
      },
    );
  return (
    <Box sx={{ my: 2 }}>
      {machines.map((i) => (
        <Button
          key={i.id}
          disabled={take.isPending}
          onClick={() => takeFrom(i.id, i.name)}
          sx={{ mr: 2 }}
        >
          {t.takeOver(i.name)}
        </Button>
      ))}
      <Refusal error={take.error} />
    </Box>
  );
}
