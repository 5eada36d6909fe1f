import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Box from '@mui/material/Box';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams, useSearchParams } from 'react-router';
import { gluingQuery, type GluingPage } from '../../api/gluing';
import { useKeys } from '../../parts/keys';
import { Await, Care, PageHead } from '../../parts/Page';
import { gluingWords as g } from '../../words/gluing';
import { mm } from '../../words/numbers';
import { HoldDesk } from './HoldDesk';
import { PreformDesk } from './PreformDesk';

/** How a planned stone is shaped, and how it is held on each side. */
export function DoppingRoom() {
  const { id = '' } = useParams();
  const page = useQuery(gluingQuery(id));
  return <Await query={page}>{(p) => <Room key={p.summary.id} page={p} />}</Await>;
}

function Room({ page }: { page: GluingPage }) {
  const [params, setParams] = useSearchParams();
  const { summary: s } = page;
  const parts = ['preform', ...page.mountings.map((m) => m.up)] as const;
  const asked = params.get('for');
  const part = parts.find((p) => p === asked) ?? 'preform';
  const show = (p: string) => setParams({ for: p }, { replace: true });
  useKeys(
    parts.map((p, i) => ({
      keys: ['pabcdefghijklmnoqrstuvwx'[i] ?? ''].filter(Boolean),
      label: nameOf(p),
      run: () => show(p),
    })),
  );
  const mounting = page.mountings.find((m) => m.up === part);
  return (
    <>
      <PageHead
        title={g.title}
        facts={[`${s.number} · ${s.name || s.diagram}`, s.material, mm(s.sizeMM)]}
      >
        <Button component={Link} to={`/stones/${s.id}`}>
          {g.toStone}
        </Button>
        <Button component={Link} to={`/stones/${s.id}/check`} variant="outlined">
          {g.check.open}
        </Button>
      </PageHead>
      <Box sx={{ px: 4, pt: 2 }}>
        <ToggleButtonGroup
          exclusive
          value={part}
          onChange={(_, p: string | null) => p && show(p)}
          aria-label={g.title}
        >
          {parts.map((p) => (
            <ToggleButton key={p} value={p}>
              {nameOf(p)}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
      </Box>
      {mounting ? (
        <HoldDesk key={part + page.planNo} page={page} mounting={mounting} />
      ) : (
        <PreformDesk preform={page.preform} />
      )}
      <Box component="section" aria-label={g.cautions} sx={{ px: 4, pb: 4 }}>
        {page.cautions.map((c) => (
          <Care key={c}>{c}</Care>
        ))}
      </Box>
    </>
  );
}

const nameOf = (part: string): string =>
  part === 'preform' ? g.parts.preform : g.parts.side(part);
