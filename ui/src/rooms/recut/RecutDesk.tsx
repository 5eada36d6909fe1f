import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import type { StoneLine } from '../../api/client';
import {
  anotherQuery,
  recutWaysQuery,
  type CameBack,
  type RecutAsked,
  type RecutWay,
  type ReturnedStone,
} from '../../api/recuts';
import { remember, remembered } from '../../log/remember';
import { Refusal } from '../../parts/forms/Refusal';
import { Care, PageHead } from '../../parts/Page';
import type { Vec } from '../../parts/stone/geometry';
import { StoneInTheRound, useRound } from '../../parts/stone/StoneInTheRound';
import { TextLink } from '../../parts/TextLink';
import { titleOf } from '../../parts/work/naming';
import { carats, sizes } from '../../words/numbers';
import { recutWords as t, type Tool } from '../../words/recut';
import { chipAt, damageOf, edgeAt, faceAt, sideOf, withPoint, type Mark } from './marks';
import { PlanIt } from './PlanIt';
import { WaysList } from './WaysList';
import { WhatGoes } from './WhatGoes';

/** What is marked and asked of a stone. It is remembered until the recut is planned. */
export interface Marked {
  marks: readonly Mark[];
  clearance: number;
  protected: readonly number[];
  /** How many mm beside the girdle a setting hides, undefined without one. */
  hides?: number | undefined;
  degrees: number;
}

const nothing: Marked = { marks: [], clearance: 0, protected: [], degrees: 3 };

interface Props {
  of: CameBack;
  returned: ReturnedStone;
  stone: StoneLine | undefined;
}

/** The stone with what has to go of it, and beside it the stone that a way leaves; the ways with what they cost. */
export function RecutDesk({ of, returned, stone }: Props) {
  const key = `recut ${of.stone} ${of.diagram} ${of.widthMM}`;
  const [marked, setMarked] = useState<Marked>(() => {
    const kept = remembered(key);
    return kept === null ? nothing : { ...nothing, ...(JSON.parse(kept) as Partial<Marked>) };
  });
  useEffect(() => remember(key, marked === nothing ? null : JSON.stringify(marked)), [key, marked]);
  const [tool, setTool] = useState<Tool>('chip');
  const [no, setNo] = useState(0);
  const [chosen, setChosen] = useState<string>();
  const round = useRound();
  const asked = askedOf(of, marked, returned.mm);
  const ways = useQuery({
    ...recutWaysQuery(asked),
    enabled: marked.marks.length > 0,
  });
  const found = marked.marks.length > 0 ? ways.data : undefined;
  const [other, setOther] = useState('');
  const another = useQuery({ ...anotherQuery(asked, other), enabled: other !== '' });
  const all = [...(found?.ways ?? []), ...(another.data ? [another.data.way] : [])];
  const way = all.find((w) => w.way === chosen) ?? leastLost(all);
  const point = (at: Vec, facet: number) => {
    const { mesh } = returned;
    const marks = [...marked.marks];
    if (tool === 'keep') {
      const there = marked.protected.includes(facet);
      const others = marked.protected.filter((f) => f !== facet);
      return setMarked({ ...marked, protected: there ? others : [...others, facet] });
    }
    if (tool === 'more' && marks[no]) marks[no] = withPoint(marks[no], mesh, at);
    else if (tool === 'edge') marks.push(edgeAt(mesh, at, facet));
    else if (tool === 'face') marks.push(faceAt(mesh, facet));
    else marks.push(chipAt(mesh, at));
    if (tool !== 'more') setNo(marks.length - 1);
    setMarked({ ...marked, marks });
  };
  const name = stone ? `${stone.number} · ${titleOf(stone)}` : returned.name;
  return (
    <>
      <PageHead
        title={t.title(name)}
        facts={[
          returned.material,
          carats(returned.figures.carats),
          sizes(returned.figures.width, returned.figures.length, returned.figures.height),
          returned.logged ? t.logged : t.followed,
        ]}
      >
        {stone && (
          <Button component={Link} to={`/stones/new?stone=${stone.id}`}>
            {t.anew}
          </Button>
        )}
      </PageHead>
      <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '1fr 1fr' } }}>
        <Drawing caption={t.asItIs}>
          <StoneInTheRound
            mesh={returned.mesh}
            levels={returned.levels}
            round={round}
            label={t.asItIs}
            selected={new Set(marked.protected)}
            onPoint={point}
            rings={marked.marks.flatMap((mark, i) =>
              mark.points.map(({ at }) => ({
                at,
                n: i + 1,
                label: t.damage(i + 1, mark.kind, mark.points.length),
                chosen: i === no,
                run: () => setNo(i),
              })),
            )}
          />
        </Drawing>
        <Drawing caption={way?.solid ? `${t.after}: ${way.name}` : t.chooseWay}>
          <StoneInTheRound
            mesh={way?.solid ?? returned.mesh}
            levels={returned.levels}
            round={round}
            label={t.after}
            selected={
              new Set([
                ...(way?.takes.map((take) => take.face) ?? []),
                ...addedFaces(returned, way?.added.length ?? 0),
              ])
            }
          />
        </Drawing>
        <Box sx={{ px: 6, py: 3, borderRight: { md: 1 }, borderColor: { md: 'divider' } }}>
          <WhatGoes
            returned={returned}
            marked={marked}
            onChange={setMarked}
            tool={tool}
            onTool={setTool}
            no={no}
            onNo={setNo}
          />
          <Typography variant="h3" sx={{ mt: 4 }}>
            {t.care}
          </Typography>
          {returned.advice.map((advice) => (
            <Care key={advice}>{advice}</Care>
          ))}
          {stone?.task !== 'repair' && (
            <Typography sx={{ mt: 2 }}>
              {t.others}{' '}
              <TextLink to={stone ? `/repairs/new?stone=${stone.id}` : '/repairs/new'}>
                {t.takeIn}
              </TextLink>
            </Typography>
          )}
        </Box>
        <Box sx={{ px: 6, py: 3 }}>
          <Refusal error={ways.error ?? another.error} />
          <WaysList
            ways={all}
            stay={found?.stay ?? []}
            before={found?.before}
            another={another.data}
            fetching={ways.isFetching || another.isFetching}
            way={way}
            onChoose={setChosen}
            onOther={(id) => {
              setOther(id);
              setChosen('another');
            }}
          />
          {way?.solid && (
            <PlanIt
              // A damage elsewhere asks for another side first.
              key={sideOf(marked.marks, returned.levels)}
              asked={asked}
              way={way}
              diagram={other}
              returned={returned}
              stone={stone}
              side={sideOf(marked.marks, returned.levels)}
              onPlanned={() => remember(key, null)}
            />
          )}
        </Box>
      </Box>
    </>
  );
}

function Drawing({ caption, children }: { caption: string; children: ReactNode }) {
  return (
    <Box
      component="figure"
      sx={{ m: 0, p: 2, borderBottom: 1, borderColor: 'divider', height: { xs: 320, md: 380 } }}
    >
      <Box sx={{ height: 'calc(100% - 28px)' }}>{children}</Box>
      <Typography component="figcaption" color="text.secondary" sx={{ textAlign: 'center' }}>
        {caption}
      </Typography>
    </Box>
  );
}

function askedOf(of: CameBack, marked: Marked, mm: number): RecutAsked {
  return {
    of,
    damages: marked.marks.map((mark) => damageOf(mark, mm, marked.clearance)),
    protected: [...marked.protected],
    hides: marked.hides ?? null,
    degrees: marked.degrees,
  };
}

/** The way that is looked at first: the one that loses least. */
const leastLost = (ways: readonly RecutWay[]) =>
  ways
    .filter((way) => way.figures)
    .reduce<RecutWay | undefined>(
      (best, way) => (best && best.figures!.lost <= way.figures!.lost ? best : way),
      undefined,
    );

/** The numbers of facets that a way adds: they stand behind all that the stone has. */
function addedFaces({ mesh }: ReturnedStone, added: number): number[] {
  const last = Math.max(...mesh.steps.flatMap((step) => step.set.map((f) => f.facet)));
  return Array.from({ length: added }, (_, i) => last + 1 + i);
}
