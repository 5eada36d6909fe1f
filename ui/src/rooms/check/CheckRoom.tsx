import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useNavigate, useParams } from 'react-router';
import type { StonePage } from '../../api/client';
import { checkQuery, type CheckPage, type Finding } from '../../api/gluing';
import { stoneQuery } from '../../api/stones';
import { useKeys } from '../../parts/keys';
import { useNotice } from '../../parts/notice';
import { Await, Care, PageHead } from '../../parts/Page';
import { StoneDesk } from '../../parts/stone/StoneDesk';
import { useSelectedTier } from '../../parts/stone/useSelectedTier';
import { useStoneLog } from '../../parts/work/useStoneLog';
import { gluingWords } from '../../words/gluing';
import { mm, moment } from '../../words/numbers';

const k = gluingWords.check;

/** All that could go wrong with a planned stone, gone through before it is glued. */
export function CheckRoom() {
  const { id = '' } = useParams();
  const check = useQuery(checkQuery(id));
  const stone = useQuery(stoneQuery(id));
  return (
    <Await query={check}>
      {(c) => <Await query={stone}>{(s) => <Room check={c} stone={s} />}</Await>}
    </Await>
  );
}

/** The gravest first. */
const worst = ['grave', 'care', 'unknown'] as const;

/** The keys of the ways out, in the order of what is open. */
const letters = 'abcdefghijklmopqrstuvwxyz';

function Room({ check: c, stone }: { check: CheckPage; stone: StonePage }) {
  const { summary: s } = c;
  const a = stone.assessment;
  const [selected, select] = useSelectedTier();
  const log = useStoneLog(s.workId);
  const navigate = useNavigate();
  const say = useNotice();
  const open = worst.flatMap((v) => c.findings.filter((f) => f.verdict === v));
  const fine = c.findings.filter((f) => f.verdict === 'fine');
  const vetted = log.state.vets.get(c.planNo);
  const keyOf = (tier: string) => a.stone?.tiers.find((t) => t.name === tier)?.key ?? null;
  const goOn = () => {
    log.add([{ kind: 'vetted', payload: { plan: c.planNo, open: open.map((f) => f.text) } }]);
    say({ text: k.saved(open.length) });
    void navigate(`/stones/${s.id}/dop`);
  };
  useKeys([
    ...open.flatMap((f, i) =>
      f.where && letters[i]
        ? [{ keys: [letters[i]], label: f.do, run: () => void navigate(pathOf(f, c)) }]
        : [],
    ),
    { keys: ['n'], label: k.done, run: goOn },
  ]);
  return (
    <>
      <PageHead
        title={k.title}
        facts={[
          `${s.number} · ${s.name || s.diagram}`,
          s.material,
          mm(a.width),
          stone.plan.machine,
        ]}
      >
        <Button onClick={() => void navigate(`/stones/${s.id}`)}>{gluingWords.toStone}</Button>
        <Button variant="contained" onClick={goOn} disabled={!log.known}>
          {k.done}
        </Button>
      </PageHead>
      <StoneDesk
        stone={a.stone ?? undefined}
        problems={[]}
        warnings={[]}
        selected={selected}
        onSelect={select}
        length={(units) => mm(units * a.mmPerUnit)}
      >
        <Typography sx={{ mb: 2, fontSize: '1.15rem' }}>{k.lead(open.length)}</Typography>
        {vetted && (
          <Typography color="text.secondary" sx={{ mb: 2 }}>
            {k.recorded(moment(vetted.events.at(-1)!.deviceTime))}
          </Typography>
        )}
        {worst
          .filter((v) => open.some((f) => f.verdict === v))
          .map((v) => (
            <Box component="section" key={v} aria-label={k.verdicts[v]} sx={{ mb: 3 }}>
              <Typography variant="h3">{k.verdicts[v]}</Typography>
              {open.map(
                (f, i) =>
                  f.verdict === v && (
                    <Open
                      key={f.text}
                      finding={f}
                      letter={f.where ? letters[i] : undefined}
                      to={f.where ? pathOf(f, c) : ''}
                      onShow={keyOf(f.tier) ? () => select(keyOf(f.tier)) : undefined}
                    />
                  ),
              )}
            </Box>
          ))}
        <Typography variant="h3" sx={{ mt: 4, mb: 1 }}>
          {k.fine}
        </Typography>
        <Box component="ul" sx={{ m: 0, p: 0, listStyle: 'none' }}>
          {fine.map((f) => (
            <Box
              component="li"
              key={f.text}
              sx={{ display: 'flex', gap: 2, py: 0.75, borderBottom: 1, borderColor: 'divider' }}
            >
              <Box component="span" aria-hidden sx={{ color: 'primary.main', fontWeight: 600 }}>
                ✓
              </Box>
              {f.text}
            </Box>
          ))}
        </Box>
        <Box component="section" aria-label={gluingWords.cautions} sx={{ mt: 4 }}>
          <Typography variant="h3" gutterBottom>
            {gluingWords.cautions}
          </Typography>
          {c.cautions.map((t) => (
            <Care key={t}>{t}</Care>
          ))}
        </Box>
      </StoneDesk>
    </>
  );
}

interface OpenProps {
  finding: Finding;
  /** The key that leads to the way out. */
  letter: string | undefined;
  to: string;
  /** Lights the tier that it is about. */
  onShow: (() => void) | undefined;
}

/** Something that is not in order: what, and the way out. */
function Open({ finding: f, letter, to, onShow }: OpenProps) {
  const navigate = useNavigate();
  const grave = f.verdict === 'grave';
  return (
    <Box
      sx={{
        display: 'flex',
        gap: 3,
        alignItems: 'flex-start',
        borderBottom: 1,
        borderColor: 'divider',
        py: 1,
      }}
    >
      <Box sx={{ flexGrow: 1, minWidth: 0 }}>
        <Care grave={grave}>
          <Typography sx={{ fontWeight: 600 }}>{f.text}</Typography>
          <Typography>{f.do}</Typography>
        </Care>
      </Box>
      <Box sx={{ display: 'grid', gap: 1, flexShrink: 0, pt: 1 }}>
        {f.where && (
          <Button variant="outlined" onClick={() => void navigate(to)} aria-keyshortcuts={letter}>
            {k.where[f.where]}
            <Box component="kbd" aria-hidden sx={{ ml: 1.5, opacity: 0.7, font: 'inherit' }}>
              {letter}
            </Box>
          </Button>
        )}
        {onShow && (
          <Button size="small" onClick={onShow}>
            {k.show(f.tier)}
          </Button>
        )}
      </Box>
    </Box>
  );
}

/** Where what is open can be mended. */
function pathOf(f: Finding, c: CheckPage): string {
  const stone = `/stones/${c.summary.id}`;
  switch (f.where) {
    case 'angles':
      return `/diagrams/${c.diagram}/angles`;
    case 'diagram':
      return `/diagrams/${c.diagram}`;
    case 'dop':
      return `${stone}/dop${f.side && `?for=${f.side}`}`;
    case 'kit':
      return '/kit';
    case 'machine':
      return '/machine';
    case 'rough':
      return c.piece ? `/rough/${c.piece}` : '/rough';
    default:
      return `${stone}?change`;
  }
}
