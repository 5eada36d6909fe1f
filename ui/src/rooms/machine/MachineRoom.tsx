import Box from '@mui/material/Box';
import { useQuery } from '@tanstack/react-query';
import { settingsQuery } from '../../api/queries';
import { Await, PageHead } from '../../parts/Page';
import { w } from '../../words/words';
import { MachineForm } from './MachineForm';

export function MachineRoom() {
  const settings = useQuery(settingsQuery);
  return (
    <>
      <PageHead title={w.common.machine} />
      <Box sx={{ p: 6 }}>
        <Await query={settings}>{(s) => <MachineForm settings={s} />}</Await>
      </Box>
    </>
  );
}
