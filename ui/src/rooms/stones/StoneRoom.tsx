import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import type { Choices, Settings, StonePage } from '../../api/client';
import { settingsQuery, usualQuery } from '../../api/settings';
import {
  asCutQuery,
  planRecord,
  rereadStones,
  scriptQuery,
  stoneQuery,
  storeStone,
  keepAsCut,
} from '../../api/stones';
import { History } from '../../parts/work/History';
import { useNotice } from '../../parts/notice';
import { Refusal } from '../../parts/forms/Refusal';
import { SaveConflict } from '../../parts/forms/Conflict';
import { Await, Care, Figures, PageHead } from '../../parts/Page';
import { MenuButton } from '../../parts/MenuButton';
import { MoreWork } from '../../parts/work/MoreWork';
import { Photos } from '../../parts/work/Photos';
import { TextLink } from '../../parts/TextLink';
import { Works } from '../../parts/work/Works';
import { useSaveOver } from '../../parts/forms/useSaveOver';
import { asCutWords } from '../../words/asCut';
import { cardWords } from '../../words/card';
import { gluingWords } from '../../words/gluing';
import { carats, mm, money, sizes } from '../../words/numbers';
import { photoWords } from '../../words/photos';
import { repairWords } from '../../words/repairs';
import { runWords } from '../../words/runs';
import { machineWords as m } from '../../words/machine';
import { workWords } from '../../words/works';
import { w } from '../../words/words';
import { lapLines } from '../../parts/work/lapUse';
import { plannedLighting } from '../../parts/light/lighting';
import { StoneDesk } from '../../parts/stone/StoneDesk';
import { useSelectedTier } from '../../parts/stone/useSelectedTier';
import { CardFigures } from '../../parts/work/CardFigures';
import { AsCutList, AsCutStones } from '../../parts/work/AsCut';
import { TakeOver } from '../../parts/work/TakeOver';
import { StoneThread } from '../../parts/work/Thread';
import { PlanFrame } from './PlanFrame';
import { CutWith } from './CutWith';
import { Dialled } from './Dialled';
import { PlanFigures } from './PlanFigures';

/** One stone, from its plan to its card. */
export function StoneRoom() {
  const { id = '' } = useParams();
  const [params, setParams] = useSearchParams();
  const stone = useQuery(stoneQuery(id, params.get('work') ?? ''));
  const settings = useQuery(settingsQuery);
  const changing = params.has('change');
  const setChanging = (on: boolean) =>
    setParams(
      (p) => {
        if (on) p.set('change', '');
        else p.delete('change');
        return p;
      },
      { replace: true },
    );
  return (
    <Await query={stone}>
      {(page) =>
        changing && settings.data ? (
          <ChangePlan page={page} settings={settings.data} onDone={() => setChanging(false)} />
        ) : (
          <StoneSheet page={page} onChange={() => setChanging(true)} />
        )
      }
    </Await>
  );
}

function titleOf({ summary: s }: StonePage): string {
  return `${s.number} · ${s.name || s.diagram}`;
}

function StoneSheet({ page, onChange }: { page: StonePage; onChange: () => void }) {
  const { summary: s, assessment: a } = page;
  const [selected, select] = useSelectedTier();
  const usual = useQuery(usualQuery).data;
  const { state } = s;
  const finished = state === 'finished';
  // An earlier work is only looked at: what is changed belongs to the present one.
  const present = page.works.at(-1)!.id === s.workId;
  const script = useQuery({ ...scriptQuery(s.id, s.workId), refetchOnMount: 'always' });
  const navigate = useNavigate();
  const toCard = () => void navigate(`/stones/${s.id}/card`);
  return (
    <>
      <PageHead
        title={titleOf(page)}
        facts={[
          s.task === 'recut' ? workWords.tasks.recut! : '',
          s.diagram,
          s.material,
          w.stones.states[state]!,
          w.today.progress(s.done, s.all),
          s.skipped > 0 && !finished ? w.bench.skipped(s.skipped) : '',
          s.run ? runWords.partOf(s.runPlace) : '',
        ]}
      >
        <MenuButton
          label={w.stones.more}
          entries={[
            { label: w.logbook.asCut, href: `/api/stones/${s.id}/diagram` },
            // A stone may have been cut without the bench.
            ...(present && state === 'planned' ? [{ label: w.stones.finish, run: toCard }] : []),
          ]}
        />
        {s.run && (
          <Button component={Link} to={`/runs/${s.run}`}>
            {runWords.toRun}
          </Button>
        )}
        <Button component={Link} to={`/stones/${s.id}/sheet`}>
          {w.stones.sheet}
        </Button>
        {present && !finished && <Button onClick={onChange}>{w.stones.change}</Button>}
        {present && state !== 'planned' && (
          <Button
            component={Link}
            to={`/stones/${s.id}/card`}
            variant={state === 'cut' ? 'contained' : 'outlined'}
          >
            {finished ? w.stones.editCard : w.stones.finish}
          </Button>
        )}
        {present && finished && (
          <Button component={Link} to={`/stones/${s.id}/print`}>
            {cardWords.print}
          </Button>
        )}
        {present && finished && <MoreWork stone={s.id} />}
        {present && !finished && (
          <Button component={Link} to={`/stones/${s.id}/dop`}>
            {gluingWords.open}
          </Button>
        )}
        {present && state === 'planned' && (
          <Button component={Link} to={`/stones/${s.id}/check`} variant="outlined">
            {gluingWords.check.open}
          </Button>
        )}
        {present && (state === 'planned' || state === 'cutting') && (
          <Button component={Link} to={`/bench/${s.id}`} variant="contained">
            {state === 'planned' ? w.stones.cut : w.stones.resume}
          </Button>
        )}
      </PageHead>
      <StoneDesk
        stone={a.stone ?? undefined}
        problems={[]}
        warnings={a.warnings}
        selected={selected}
        onSelect={select}
        light={usual && { draft: a.draft, lighting: plannedLighting(a, s.material, usual) }}
        length={(units) => mm(units * a.mmPerUnit)}
      >
        <Await query={script}>
          {(b) => <StoneThread key={b.planNo} script={b} closed={finished} />}
        </Await>
        {state !== 'planned' && <CutSoFar stone={s.id} work={s.workId} done={s.done} />}
        <Works stone={s.id} works={page.works} shown={s.workId} />
        {page.before && <Before before={page.before} />}
        {page.source && <Source source={page.source} />}
        {s.late > 0 && <Care>{w.bench.late(s.late)}</Care>}
        {s.finish && <CardFigures finish={s.finish} hours={s.hours} planned={a.carats} />}
        {(present || page.photos.length > 0) && (
          <Box sx={{ my: 4 }}>
            <Photos
              stone={s.id}
              photos={page.photos}
              shows="after"
              head={photoWords.photos}
              closed={!present}
            />
          </Box>
        )}
        <PlanFigures assessment={a} />
        {a.stone && <Dialled {...{ stone: a.stone, held: a.held, selected, select }} />}
        <CutWith choices={page.plan.choices} />
        <Box sx={{ my: 4 }}>
          <History history={page.history} kinds={w.stones.events} />
        </Box>
      </StoneDesk>
    </>
  );
}

/** What was really cut beside what was planned. Done is how many cuts the list knows of. */
function CutSoFar({ stone, work, done }: { stone: string; work: string; done: number }) {
  const found = useQuery({ ...asCutQuery(stone, work, '', done), refetchOnMount: 'always' });
  const [chosen, choose] = useState<number>();
  return (
    <Box component="section" aria-label={asCutWords.title} sx={{ my: 4 }}>
      <Typography variant="h3" gutterBottom>
        {asCutWords.title}
      </Typography>
      <TakeOver stone={stone} work={work} />
      <Await query={found}>
        {(of) => (
          <>
            <AsCutStones of={of} chosen={chosen} />
            <AsCutList of={of} chosen={chosen} onChoose={choose} />
            {of.differences.length > 0 && <KeepAsCut stone={stone} />}
          </>
        )}
      </Await>
    </Box>
  );
}

/** Keeps what was really cut as a diagram of its own. */
function KeepAsCut({ stone }: { stone: string }) {
  const keep = useMutation(keepAsCut);
  return (
    <Box sx={{ mt: 2 }}>
      <Button disabled={keep.isPending || keep.isSuccess} onClick={() => keep.mutate(stone)}>
        {asCutWords.keep}
      </Button>{' '}
      {keep.data && (
        <TextLink to={`/diagrams/${keep.data.id}`}>
          {asCutWords.kept(keep.data.draft.name)}
        </TextLink>
      )}
      <Refusal error={keep.error} />
    </Box>
  );
}

/** The piece of rough that a stone is cut from, and its share of what that cost. */
function Source({ source: x }: { source: NonNullable<StonePage['source']> }) {
  const k = gluingWords.source;
  return (
    <Box component="section" aria-label={k.head} sx={{ my: 4 }}>
      <Typography variant="h3" gutterBottom>
        {k.head}
      </Typography>
      <Typography>
        <TextLink to={`/rough/${x.piece}`}>{k.piece(x.number, x.name)}</TextLink>
        {[x.parcel, carats(x.carats), x.parent > 0 ? k.parent(x.parent) : '']
          .filter(Boolean)
          .map((t) => ` · ${t}`)}
      </Typography>
      <Figures
        rows={[
          ...(x.cost > 0 ? [[k.share, money(x.cost, x.currency)] as [string, string]] : []),
          ...(x.width > 0
            ? [[k.found, `${mm(x.width)} · ${carats(x.carat)}`] as [string, string]]
            : []),
        ]}
      />
      {x.why && (
        <Typography sx={{ whiteSpace: 'pre-wrap', mt: 1 }}>
          {k.why}: {x.why}
        </Typography>
      )}
    </Box>
  );
}

/** The stone before a recut, and what it is recut for. */
function Before({ before: b }: { before: NonNullable<StonePage['before']> }) {
  return (
    <Box component="section" aria-label={workWords.before} sx={{ my: 4 }}>
      <Typography variant="h3">{workWords.before}</Typography>
      {(b.carats > 0 || b.widthMM > 0) && (
        <Typography>
          {workWords.was(
            b.carats > 0 ? carats(b.carats) : '',
            b.widthMM > 0 ? sizes(b.widthMM, b.lengthMM, b.heightMM) : '',
          )}
        </Typography>
      )}
      {b.way && <Typography>{workWords.way(b.way)}</Typography>}
      {b.why && <Typography sx={{ whiteSpace: 'pre-wrap' }}>{b.why}</Typography>}
      {b.agreed && (
        <Typography sx={{ whiteSpace: 'pre-wrap' }}>
          {workWords.agreed}: {b.agreed}
        </Typography>
      )}
      <Care>{repairWords.caution}</Care>
    </Box>
  );
}

function ChangePlan({
  page,
  settings,
  onDone,
}: {
  page: StonePage;
  settings: Settings;
  onDone: () => void;
}) {
  const { summary: s } = page;
  const [choices, setChoices] = useState<Choices>(page.plan.choices);
  const queries = useQueryClient();
  const say = useNotice();
  const saving = useSaveOver(planRecord(s.id), {
    onSaved: async () => {
      await rereadStones(queries);
      say({ text: w.stones.changed });
      onDone();
    },
    onTheirs: (p) => {
      storeStone(queries, p);
      onDone();
    },
  });
  return (
    <>
      <PlanFrame
        title={titleOf(page)}
        facts={[w.stones.change]}
        keep={w.stones.saveChange}
        onKeep={() => saving.save(choices, s.version)}
        onCancel={onDone}
        isPending={saving.isPending}
        error={saving.error}
        diagramId={page.plan.diagramId}
        revision={page.plan.revision}
        choices={choices}
        onChange={setChoices}
        settings={settings}
        settled={!!page.before?.way}
      />
      <SaveConflict
        saving={saving}
        mine={linesOf(choices)}
        linesOf={(theirs) => linesOf(theirs.plan.choices)}
      />
    </>
  );
}

/** A plan's choices in lines, for holding two against each other. */
function linesOf(c: Choices): string[] {
  return [
    c.material,
    `${w.stones.gear} ${c.gear}`,
    `${mm(c.size.mm)} ${w.stones.bases[c.size.basis]} ${c.size.tier}`,
    `${w.stones.firstSide}: ${c.firstSide}`,
    m.visitings[c.visiting]!,
    ...lapLines(c),
    ...c.holds.map((h) => [h.dop, h.adhesive].filter(Boolean).join(', ')),
  ];
}
