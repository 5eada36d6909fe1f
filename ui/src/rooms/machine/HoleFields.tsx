import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useDeferredValue } from 'react';
import type { Machine } from '../../api/client';
import { ranges } from '../../api/ranges';
import { holesQuery } from '../../api/settings';
import { NumbersField } from '../../parts/fields/NumbersField';
import { Row } from '../../parts/Row';
import { Sheet } from '../../parts/Sheet';
import { machineWords as m } from '../../words/machine';
import { angle, plain } from '../../words/numbers';

const { pegs, holes } = ranges.Machine;

interface Props {
  machine: Machine;
  onChange: (change: Partial<Machine>) => void;
}

/** The pegs and holes of a machine that sets angles by them, and what each hole sets. */
export function HoleFields({ machine: k, onChange }: Props) {
  const found = useQuery(holesQuery(useDeferredValue(k.pegs), useDeferredValue(k.holes)));
  return (
    <Box>
      <Row>
        <NumbersField
          label={m.pegs}
          value={k.pegs}
          {...pegs}
          most={6}
          help={m.pegsHelp}
          bad={m.lengthsBad(pegs.min, pegs.max)}
          onChange={(lengths) => onChange({ pegs: lengths })}
          width={260}
        />
        <NumbersField
          label={m.holes}
          value={k.holes}
          {...holes}
          most={80}
          help={m.holesHelp}
          bad={m.lengthsBad(holes.min, holes.max)}
          onChange={(heights) => onChange({ holes: heights })}
          width={520}
        />
      </Row>
      {found.data && found.data.holes.length > 0 && (
        <Box sx={{ maxWidth: 460, maxHeight: 320, overflow: 'auto', mt: 2 }}>
          <Sheet dense head={[m.hole, m.holeHeight, m.peg, m.holeAngle]}>
            {found.data.holes.map((h) => (
              <tr key={`${h.no} ${h.peg}`}>
                <td className="figure">{h.no}</td>
                <td className="figure">{plain(h.height)} mm</td>
                <td className="figure">{plain(h.peg)} mm</td>
                <td className="figure">{angle(h.angle)}°</td>
              </tr>
            ))}
          </Sheet>
        </Box>
      )}
      <Typography color="text.secondary" variant="body2" sx={{ mt: 1 }}>
        {m.holesLead}
      </Typography>
    </Box>
  );
}
