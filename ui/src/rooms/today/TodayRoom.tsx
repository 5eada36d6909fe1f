import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { StoneLine, Today } from '../../api/client';
import { noticesQuery } from '../../api/copies';
import { settingsQuery } from '../../api/settings';
import { scriptQuery, todayQuery } from '../../api/stones';
import { Await, Care, Empty, PageHead } from '../../parts/Page';
import { vec } from '../../parts/stone/geometry';
import { StoneInWheel } from '../../parts/stone/StoneInWheel';
import { TextLink } from '../../parts/TextLink';
import { Thumbnail } from '../../parts/Thumbnail';
import { useStoneLog } from '../../parts/work/useStoneLog';
import { copyWords } from '../../words/copies';
import { deviceWords } from '../../words/devices';
import { clockWords } from '../../words/clock';
import { freehandWords } from '../../words/freehand';
import { gluingWords, whenCured } from '../../words/gluing';
import { angle, clock, dayOf, moment } from '../../words/numbers';
import { kitWords } from '../../words/kit';
import { repairWords } from '../../words/repairs';
import { w } from '../../words/words';
import { aboutOf, pathOf, titleOf } from '../../parts/work/naming';
import { DiagramChoice } from '../../parts/diagram/DiagramChoice';
import { clocks } from '../../log/clocks';
import { standingOf } from '../../log/standing';
import { useNow } from '../../parts/clock/useNow';
import { FirstOpening } from './FirstOpening';
import { upOf } from '../../parts/stone/setups';

export function TodayRoom() {
  const today = useQuery(todayQuery);
  const settings = useQuery(settingsQuery);
  return (
    <>
      <PageHead title={w.today.title}>
        <Button component={Link} to="/repairs/new">
          {repairWords.takeIn}
        </Button>
        <Button
          component={Link}
          to="/stones/new"
          variant={today.data?.cutting.length ? 'outlined' : 'contained'}
        >
          {w.today.newStone}
        </Button>
      </PageHead>
      {settings.data && !settings.data.answered && <FirstOpening settings={settings.data} />}
      <Notices />
      <Await query={today}>{(t) => <Bench today={t} />}</Await>
    </>
  );
}

/** What the owner should look after, with the way there. */
function Notices() {
  const { data } = useQuery(noticesQuery);
  const { copies, wrong } = data ?? {};
  const lines = [
    copies && {
      text:
        copies.failed === ''
          ? copyWords.onToday.old(copies.last ? moment(copies.last) : '')
          : copyWords.onToday.failed(copies.failed),
      grave: true,
      to: '/machine?show=copies',
      look: copyWords.onToday.look,
    },
    wrong && {
      text: deviceWords.wrong(wrong.count, moment(wrong.last)),
      grave: wrong.closed,
      to: '/machine?show=devices',
      look: copyWords.onToday.wrong,
    },
  ].filter((l) => !!l);
  return lines.map((l) => (
    <Box key={l.to} sx={{ px: 6, pt: 3, display: 'flex', gap: 4, alignItems: 'center' }}>
      <Care grave={l.grave}>{l.text}</Care>
      <Button component={Link} to={l.to}>
        {l.look}
      </Button>
    </Box>
  ));
}

function Bench({ today: t }: { today: Today }) {
  const [first, ...others] = t.cutting;
  if (Object.values(t).every((group) => group.length === 0)) return <FirstStone />;
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '1fr 380px' } }}>
      <Box sx={{ p: 6, borderRight: { md: 1 }, borderColor: { md: 'divider' } }}>
        {first ? <OnTheDop stone={first} /> : <Typography>{w.today.nothing}</Typography>}
      </Box>
      <Box sx={{ p: 6 }}>
        <Clocks />
        <Group head={gluingWords.onToday.curing} stones={t.curing} />
        <Group head={repairWords.due} stones={t.due} />
        <KitDue />
        <Freehands list={t.freehand} />
        <Group head={w.today.cutting} stones={others} />
        <Group head={w.today.cut} stones={t.cut} />
        <Group
          head={w.today.planned}
          stones={t.planned.filter((s) => !t.curing.some((c) => c.id === s.id))}
        />
        <Group head={w.today.finished} stones={t.finished} />
      </Box>
    </Box>
  );
}

/** Stones that are cut freehand, with the way back to each. */
function Freehands({ list }: { list: Today['freehand'] }) {
  if (list.length === 0) return null;
  return (
    <Box component="section" aria-label={freehandWords.onToday} sx={{ mb: 6 }}>
      <Typography variant="h3" sx={{ borderBottom: 1, borderColor: 'text.primary', pb: 1 }}>
        {freehandWords.onToday}
      </Typography>
      {list.map((f) => (
        <Typography key={f.id} sx={{ py: 1.5, borderBottom: 1, borderColor: 'divider' }}>
          <TextLink to={`/freehand/${f.id}`}>{f.name}</TextLink>
        </Typography>
      ))}
    </Box>
  );
}

/** Clocks that were started in this browser and run down, with the way back to each. */
function Clocks() {
  const running = clocks();
  const now = useNow(running.length > 0);
  if (running.length === 0) return null;
  return (
    <Box component="section" aria-label={clockWords.running} sx={{ mb: 6 }}>
      <Typography variant="h3" sx={{ borderBottom: 1, borderColor: 'text.primary', pb: 1 }}>
        {clockWords.running}
      </Typography>
      {running.map((c) => (
        <Box
          key={c.key}
          component={Link}
          to={c.to}
          sx={{
            display: 'flex',
            gap: 3,
            py: 1.5,
            color: 'text.primary',
            textDecoration: 'none',
            borderBottom: 1,
            borderColor: 'divider',
            '&:hover': { background: (t) => t.tokens.sheet },
          }}
        >
          <Typography noWrap sx={{ flexGrow: 1 }}>
            {c.what}
          </Typography>
          <Typography
            variant="figures"
            role="timer"
            sx={{ color: c.end <= now ? 'secondary.main' : undefined }}
          >
            {c.end <= now ? clockWords.over : clock(c.end - now + 999)}
          </Typography>
        </Box>
      ))}
    </Box>
  );
}

/** Of how many things of the kit Today tells at most; the shelf tells of all. */
const mostOfKit = 3;

/** What of the kit is past its date, worn, dirty or runs out. */
function KitDue() {
  const kit = useQuery(noticesQuery).data?.kit ?? [];
  if (kit.length === 0) return null;
  return (
    <Box component="section" aria-label={kitWords.due} sx={{ mb: 6 }}>
      <Typography variant="h3" sx={{ borderBottom: 1, borderColor: 'text.primary', pb: 1 }}>
        {kitWords.title}
      </Typography>
      {kit.slice(0, mostOfKit).map((n) => (
        <Box
          key={n.id}
          component={Link}
          to={`/kit?thing=${n.id}`}
          sx={{
            display: 'block',
            color: 'text.primary',
            textDecoration: 'none',
            borderBottom: 1,
            borderColor: 'divider',
            '&:hover': { background: (t) => t.tokens.sheet },
          }}
        >
          <Care grave={n.grave}>
            <strong>{n.name}: </strong>
            {n.text}
          </Care>
        </Box>
      ))}
      {kit.length > mostOfKit && (
        <Button component={Link} to="/kit" size="small">
          {kitWords.onToday.more(kit.length - mostOfKit)}
        </Button>
      )}
    </Box>
  );
}

/** Nothing was planned yet: begin with a diagram. */
function FirstStone() {
  return (
    <>
      <Empty text={w.today.nothing}>
        <Typography variant="h2">{w.today.beginWith}</Typography>
      </Empty>
      <DiagramChoice />
    </>
  );
}

/** The stone that was cut last, and the facet that comes next. */
function OnTheDop({ stone }: { stone: StoneLine }) {
  const script = useQuery(scriptQuery(stone.id));
  const log = useStoneLog(stone.workId);
  return (
    <>
      <Typography variant="h2">
        {w.today.onDop}: {stone.number} · {stone.name}
      </Typography>
      <Typography color="text.secondary">
        {stone.diagram} · {stone.material} · {w.today.progress(stone.done, stone.all)}
        <Skipped stone={stone} />
      </Typography>
      <Await query={script}>
        {(s) => {
          const state = standingOf(s, log.state);
          const visit = s.visits[state.at];
          const facet = visit && s.facets[visit.facet];
          if (!log.known || !facet) return null;
          return (
            <Box
              sx={{
                display: 'grid',
                gridTemplateColumns: 'minmax(0, 1fr) auto',
                gap: 6,
                alignItems: 'center',
                mt: 2,
              }}
            >
              <Box sx={{ height: 'min(62vh, 560px)' }}>
                <StoneInWheel
                  mesh={s.mesh}
                  step={state.step}
                  up={upOf(s.setups[facet.setup]!)}
                  wheel={s.wheel}
                  current={facet.dial}
                  now={facet.no}
                  ring={vec(facet.target)}
                  label={w.drawing.inWheel(facet.part)}
                />
              </Box>
              <Box>
                <Typography color="text.secondary">{w.today.next}</Typography>
                <Typography variant="h2">
                  {facet.tier} · {s.passes.find((p) => p.id === visit.pass)?.name}
                </Typography>
                <Typography
                  variant="figures"
                  component="p"
                  sx={{ fontSize: '2.5rem', lineHeight: 1.3 }}
                >
                  {facet.dial.tooth}
                  <br />
                  {angle(facet.angle)}°
                </Typography>
                <Typography sx={{ maxWidth: 220, mb: 4 }}>{visit.stop}</Typography>
                <Button component={Link} to={`/bench/${stone.id}`} variant="contained">
                  {w.today.resume}
                </Button>
              </Box>
            </Box>
          );
        }}
      </Await>
    </>
  );
}

const isCuring = (s: StoneLine): boolean => s.cures !== null && Date.parse(s.cures) > Date.now();

function Group({ head, stones }: { head: string; stones: StoneLine[] }) {
  if (stones.length === 0) return null;
  return (
    <Box component="section" sx={{ mb: 6 }}>
      <Typography variant="h3" sx={{ borderBottom: 1, borderColor: 'text.primary', pb: 1 }}>
        {head}
      </Typography>
      {stones.map((s) => (
        <Box
          key={s.id}
          sx={{ display: 'flex', alignItems: 'center', borderBottom: 1, borderColor: 'divider' }}
        >
          <Box
            component={Link}
            to={pathOf(s)}
            sx={{
              display: 'flex',
              gap: 3,
              alignItems: 'center',
              flexGrow: 1,
              minWidth: 0,
              py: 1.5,
              color: 'text.primary',
              textDecoration: 'none',
              '&:hover': { background: (t) => t.tokens.sheet },
            }}
          >
            <Thumbnail hash={s.picture} size={44} />
            <Box sx={{ minWidth: 0 }}>
              <Typography noWrap>
                {s.number} · {titleOf(s)}
              </Typography>
              <Typography variant="body2" color="text.secondary" noWrap>
                {isCuring(s) && `${gluingWords.onToday.until(whenCured(s.cures!))} · `}
                {s.promised
                  ? repairWords.dueOn(dayOf(s.promised))
                  : `${aboutOf(s)} · ${s.material}`}
                {s.state === 'cutting' && s.all > 0 && ` · ${w.today.progress(s.done, s.all)}`}
              </Typography>
            </Box>
          </Box>
          <Skipped stone={s} />
        </Box>
      ))}
    </Box>
  );
}

/** How many facets of a stone were skipped and are still open, with the way to them. */
function Skipped({ stone: s }: { stone: StoneLine }) {
  if (s.skipped === 0 || s.state === 'finished') return null;
  return (
    <Button component={Link} to={`/bench/${s.id}?skipped`} size="small" sx={{ flexShrink: 0 }}>
      {w.bench.skipped(s.skipped)}
    </Button>
  );
}
