import { useQuery } from '@tanstack/react-query';
import { useSearchParams } from 'react-router';
import type { StoneLine } from '../../api/client';
import { returnedQuery, type CameBack, type ReturnedStone } from '../../api/recuts';
import { stoneLineQuery } from '../../api/stones';
import { Await } from '../../parts/Page';
import { AskForm } from './AskForm';
import { RecutDesk } from './RecutDesk';

/** A finished stone is recut: what has to go is marked on it, and the ways stand side by side. */
export function RecutRoom() {
  const [params] = useSearchParams();
  const of: CameBack = {
    stone: params.get('stone') ?? '',
    diagram: params.get('diagram') ?? '',
    widthMM: Number(params.get('width')) || 0,
    material: params.get('material') ?? '',
  };
  const line = useQuery({ ...stoneLineQuery(of.stone), enabled: of.stone !== '' });
  if (of.stone === '') return <Formed of={of} />;
  return <Await query={line}>{(stone) => <Formed of={of} stone={stone} />}</Await>;
}

/** Where nothing tells yet what form the stone has, that is asked for. */
function Formed({ of, stone }: { of: CameBack; stone?: StoneLine }) {
  const known = of.diagram !== '' || stone?.task === 'first-cut' || stone?.task === 'recut';
  const asked = useQuery({ ...returnedQuery(of), enabled: known || stone !== undefined });
  const noForm = asked.error !== null && !known;
  if ((!known && !stone) || noForm) return <AskForm of={of} stone={stone} />;
  return (
    <Await query={asked}>
      {(returned: ReturnedStone) => (
        <RecutDesk key={JSON.stringify(of)} of={of} returned={returned} stone={stone} />
      )}
    </Await>
  );
}
