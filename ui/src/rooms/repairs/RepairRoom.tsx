import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import type { RepairPage } from '../../api/client';
import { intakeRecord, repairQuery, rereadStones, storeRepair } from '../../api/stones';
import { History } from '../../parts/work/History';
import { useNotice } from '../../parts/notice';
import { SaveConflict } from '../../parts/forms/Conflict';
import { Await, Care, Figures, PageHead } from '../../parts/Page';
import { MoreWork } from '../../parts/work/MoreWork';
import { Refusal } from '../../parts/forms/Refusal';
import { Photos } from '../../parts/work/Photos';
import { Works } from '../../parts/work/Works';
import { useSaveOver } from '../../parts/forms/useSaveOver';
import { carats, dayOf, hours, sizes } from '../../words/numbers';
import { repairWords as r } from '../../words/repairs';
import { w } from '../../words/words';
import { workWords } from '../../words/works';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { GiveBack } from './GiveBack';
import { IntakeForm, type Written } from './IntakeForm';

/** A stone that came in: what was written down, its photos, and what happened. */
export function RepairRoom() {
  const { id = '' } = useParams();
  const [params] = useSearchParams();
  const repair = useQuery(repairQuery(id, params.get('work') ?? ''));
  return <Await query={repair}>{(p) => <Repair key={p.summary.id} page={p} />}</Await>;
}

function Repair({ page }: { page: RepairPage }) {
  const { summary: s, intake } = page;
  const [editing, setEditing] = useState(false);
  const [giving, setGiving] = useState(false);
  const finished = s.state === 'finished';
  // An earlier work is only looked at: what is changed belongs to the present one.
  const present = page.works.at(-1)!.id === s.workId;
  return (
    <>
      <PageHead
        title={`${s.number} · ${s.name}`}
        facts={[
          r.repair,
          intake.material,
          w.stones.states[s.state]!,
          intake.promised ? r.dueOn(dayOf(intake.promised)) : '',
        ]}
      >
        {present && !finished && <Button onClick={() => setEditing(!editing)}>{r.edit}</Button>}
        {present && <Button onClick={() => setGiving(true)}>{r.back}</Button>}
        {present && finished && <MoreWork stone={s.id} />}
        {present && !finished && (
          <Button component={Link} to={`/recut?stone=${s.id}`}>
            {workWords.recut}
          </Button>
        )}
        {present && !finished && (
          <Button variant="contained" component={Link} to={`/bench/repair/${s.id}`}>
            {r.toBench}
          </Button>
        )}
      </PageHead>
      <Box sx={{ p: 6, display: 'grid', gap: 6 }}>
        {editing ? (
          <Edit page={page} onDone={() => setEditing(false)} />
        ) : (
          <BeforeAfter page={page} closed={!present} />
        )}
        <Works stone={s.id} works={page.works} shown={s.workId} />
        <History history={page.history} kinds={r.events} />
      </Box>
      {giving && <GiveBack page={page} onClose={() => setGiving(false)} />}
    </>
  );
}

/** The stone as it came in and as it went out, side by side, and what was said of it. */
function BeforeAfter({ page, closed }: { page: RepairPage; closed: boolean }) {
  const { summary: s, intake, photos } = page;
  const f = s.finish;
  const weight = (v: number) => (v > 0 ? carats(v) : '–');
  return (
    <>
      <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '1fr 1fr' }, gap: 6 }}>
        <Box>
          <Photos stone={s.id} photos={photos} shows="before" head={r.before} closed={closed} />
          <Box sx={{ mt: 3 }}>
            <Figures
              rows={[
                [r.carats, weight(intake.carats)],
                [w.stones.size, sizes(intake.lengthMM, intake.widthMM, intake.heightMM)],
                [r.owner, intake.owner || '–'],
                [r.material, intake.material || '–'],
                [r.promised, intake.promised ? dayOf(intake.promised) : '–'],
              ]}
            />
          </Box>
        </Box>
        <Box>
          <Photos stone={s.id} photos={photos} shows="after" head={r.after} closed={closed} />
          <Box sx={{ mt: 3 }}>
            <Figures
              rows={[
                [r.carats, f ? weight(f.finishedCarats) : '–'],
                [w.stones.size, f ? sizes(f.lengthMM, f.widthMM, f.heightMM) : '–'],
                [r.given, f ? dayOf(f.finished) : '–'],
                [r.spent, `${hours(s.hours)} h`],
              ]}
            />
          </Box>
        </Box>
      </Box>
      <Box sx={{ maxWidth: 760 }}>
        <Said head={r.damage} text={intake.damage} />
        <Said head={r.agreed} text={intake.agreed} />
        {f && <Said head={r.notes} text={f.notes} />}
        <Care>{r.caution}</Care>
      </Box>
    </>
  );
}

function Said({ head, text }: { head: string; text: string }) {
  return (
    <Box sx={{ mb: 3 }}>
      <Typography variant="h3">{head}</Typography>
      <Typography sx={{ whiteSpace: 'pre-wrap', maxWidth: 640 }}>{text || '–'}</Typography>
    </Box>
  );
}

function Edit({ page, onDone }: { page: RepairPage; onDone: () => void }) {
  const { summary: s } = page;
  const [written, setWritten] = useState<Written>({ name: s.name, intake: page.intake });
  const { readable, report } = useReadable();
  const queries = useQueryClient();
  const say = useNotice();
  const saving = useSaveOver(intakeRecord(s.id), {
    onSaved: async () => {
      await rereadStones(queries);
      say({ text: r.saved });
      onDone();
    },
    onTheirs: (p) => {
      storeRepair(queries, p);
      onDone();
    },
  });
  return (
    <Box>
      <FormFields value={report}>
        <IntakeForm value={written} onChange={setWritten} />
      </FormFields>
      <Refusal error={saving.error} />
      <Box sx={{ display: 'flex', gap: 2, mt: 4 }}>
        <Button onClick={onDone}>{w.common.cancel}</Button>
        <Button
          variant="contained"
          disabled={written.name.trim() === '' || !readable || saving.isPending}
          onClick={() => saving.save(written, s.version)}
        >
          {r.save}
        </Button>
      </Box>
      <SaveConflict
        saving={saving}
        mine={linesOf(written)}
        linesOf={(p) => linesOf({ name: p.summary.name, intake: p.intake })}
      />
    </Box>
  );
}

/** What was written down in lines, for holding two against each other. */
function linesOf({ name, intake: i }: Written): string[] {
  return [
    name,
    i.owner,
    `${i.material} ${carats(i.carats)} ${sizes(i.lengthMM, i.widthMM, i.heightMM)}`,
    i.damage,
    i.agreed,
    i.promised,
  ];
}
