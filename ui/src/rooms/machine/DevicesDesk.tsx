import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Device, DeviceList } from '../../api/client';
import {
  closeDoor,
  devicesQuery,
  forgetWrongCodes,
  nameDevice,
  openDoor,
  revokeDevice,
} from '../../api/settings';
import { useNotice } from '../../parts/notice';
import { Await, Care } from '../../parts/Page';
import { Refusal } from '../../parts/forms/Refusal';
import { Sheet } from '../../parts/Sheet';
import { deviceWords as d } from '../../words/devices';
import { moment, timeOfDay } from '../../words/numbers';

/** Which devices may come in over the network, and how another one is let in. */
export function DevicesDesk() {
  const list = useQuery(devicesQuery);
  return <Await query={list}>{(l) => <Devices list={l} />}</Await>;
}

function Devices({ list }: { list: DeviceList }) {
  const say = useNotice();
  const letIn = useMutation(openDoor);
  const letNobody = useMutation(closeDoor);
  const forget = useMutation(forgetWrongCodes);
  const revoke = useMutation(revokeDevice);
  const name = useMutation(nameDevice);
  return (
    <>
      {list.url === '' && <Care>{d.closed}</Care>}
      {list.url !== '' && !list.here && <Typography>{d.elsewhere}</Typography>}
      {list.wrong.count > 0 && (
        <Box data-wrong="" sx={{ display: 'flex', gap: 4, alignItems: 'center', mb: 4 }}>
          <Care>
            {d.wrong(list.wrong.count, moment(list.wrong.last))}{' '}
            {list.wrong.closed && d.wrongClosed}
          </Care>
          <Button onClick={() => forget.mutate()}>{d.seenWrong}</Button>
        </Box>
      )}
      {list.url !== '' && list.here && (
        <Box sx={{ display: 'flex', gap: 8, flexWrap: 'wrap', alignItems: 'center', mb: 6 }}>
          <QR rows={list.qr} />
          <Box sx={{ maxWidth: 420 }}>
            <Typography>{list.code === '' ? d.address : d.how}</Typography>
            <Typography variant="figures" component="p" sx={{ fontSize: '1.25rem' }}>
              {list.url}
            </Typography>
            {list.code === '' ? (
              <>
                <Typography color="text.secondary" sx={{ my: 3 }}>
                  {d.letHelp}
                </Typography>
                <Button variant="contained" onClick={() => letIn.mutate()}>
                  {d.let}
                </Button>
              </>
            ) : (
              <>
                <Typography sx={{ mt: 3 }}>{d.code}</Typography>
                <Typography
                  variant="figures"
                  component="p"
                  data-code=""
                  sx={{ fontSize: '2.5rem', lineHeight: 1.2 }}
                >
                  {list.code.slice(0, 4)} {list.code.slice(4)}
                </Typography>
                <Typography color="text.secondary" sx={{ mb: 2 }}>
                  {d.codeHelp(timeOfDay(list.until))}
                </Typography>
                <Box sx={{ display: 'flex', gap: 2 }}>
                  <Button onClick={() => letIn.mutate()}>{d.renew}</Button>
                  <Button onClick={() => letNobody.mutate()}>{d.close}</Button>
                </Box>
              </>
            )}
          </Box>
          {!list.secure && (
            <Typography color="text.secondary" sx={{ maxWidth: 420 }}>
              {d.plain}
            </Typography>
          )}
        </Box>
      )}
      <Refusal
        error={letIn.error ?? letNobody.error ?? forget.error ?? revoke.error ?? name.error}
      />
      {list.devices.length === 0 ? (
        <Typography>{d.none}</Typography>
      ) : (
        <Sheet head={[d.name, d.paired, d.seen, '']}>
          {list.devices.map((o) => (
            <Row
              key={o.id}
              device={o}
              here={list.here}
              onName={(n) => name.mutate({ id: o.id, name: n })}
              onRevoke={() =>
                revoke.mutate(o, { onSuccess: () => say({ text: d.revoked(o.name) }) })
              }
            />
          ))}
        </Sheet>
      )}
    </>
  );
}

function Row(props: {
  device: Device;
  here: boolean;
  onName: (name: string) => void;
  onRevoke: () => void;
}) {
  const { device: o, here } = props;
  const [typed, setTyped] = useState(o.name);
  return (
    <tr>
      <td>
        <TextField
          value={typed}
          disabled={!here}
          onChange={(e) => setTyped(e.target.value)}
          onBlur={() => typed.trim() !== '' && typed !== o.name && props.onName(typed.trim())}
          slotProps={{ htmlInput: { 'aria-label': `${d.name}: ${o.name}` } }}
        />
      </td>
      <td className="figure">{moment(o.paired)}</td>
      <td className="figure">{moment(o.seen)}</td>
      <td>
        <Button onClick={props.onRevoke} disabled={!here}>
          {d.revoke(o.name)}
        </Button>
      </td>
    </tr>
  );
}

/** A QR code; its quiet zone is part of it. */
function QR({ rows }: { rows: string[] }) {
  const size = rows.length + 8;
  const dark = rows.flatMap((row, y) =>
    [...row].flatMap((square, x) => (square === '1' ? [`M${x + 4} ${y + 4}h1v1h-1z`] : [])),
  );
  return (
    <svg width={220} height={220} viewBox={`0 0 ${size} ${size}`} role="img" aria-label={d.qr}>
      <rect width={size} height={size} fill="#fff" />
      <path d={dark.join('')} fill="#000" />
    </svg>
  );
}
