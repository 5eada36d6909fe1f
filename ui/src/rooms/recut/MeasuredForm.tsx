import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { addDiagram } from '../../api/diagrams';
import { ranges } from '../../api/ranges';
import { likenessesQuery, type Likeness, type MeasuredStone } from '../../api/recuts';
import { fieldsQuery } from '../../api/settings';
import { MaterialField } from '../../parts/fields/MaterialField';
import { NumberField } from '../../parts/fields/NumberField';
import { names, PickField } from '../../parts/fields/PickField';
import { Refusal } from '../../parts/forms/Refusal';
import { Row } from '../../parts/Row';
import { StoneInTheRound } from '../../parts/stone/StoneInTheRound';
import { plain } from '../../words/numbers';
import { recutWords as t } from '../../words/recut';
import { w } from '../../words/words';
import { MeasuredSketch } from './MeasuredSketch';

interface Props {
  /** The ID of a stone on record, '' for another. */
  stone: string;
  start: Partial<MeasuredStone>;
  material: string;
}

const lengths = ['width', 'length', 'height', 'table', 'girdle'] as const;
const angles = ['crown', 'pavilion'] as const;
const counts = ['crownFacets', 'pavilionFacets', 'girdleFacets'] as const;

const nothing: MeasuredStone = {
  outline: 'round',
  width: 0,
  length: 0,
  height: 0,
  table: 0,
  girdle: 0,
  crown: 0,
  pavilion: 0,
  crownFacets: 0,
  pavilionFacets: 0,
  girdleFacets: 0,
};

/** What can be measured of a finished stone, and the diagrams that come nearest to it. */
export function MeasuredForm({ stone, start, ...given }: Props) {
  const navigate = useNavigate();
  const [measured, setMeasured] = useState<MeasuredStone>({ ...nothing, ...start });
  const [material, setMaterial] = useState(given.material);
  const [asked, setAsked] = useState<MeasuredStone>();
  const found = useQuery({ ...likenessesQuery(asked ?? measured), enabled: asked !== undefined });
  const fields = useQuery(fieldsQuery);
  const add = useMutation(addDiagram);
  const field = (key: (typeof lengths | typeof angles | typeof counts)[number], unit: string) => (
    <NumberField
      key={key}
      label={t.measures[key]}
      unit={unit}
      {...ranges.MeasuredStone[key]}
      width={150}
      optional="–"
      value={measured[key] || undefined}
      onChange={(v) => setMeasured({ ...measured, [key]: v ?? 0 })}
    />
  );
  const take = (like: Likeness) =>
    add.mutate(
      { draft: like.draft, origin: t.measuredOrigin(like.name), designed: true },
      {
        onSuccess: (d) => {
          const to = new URLSearchParams({
            diagram: d.id,
            width: String(measured.width),
            material,
          });
          if (stone) to.set('stone', stone);
          void navigate(`/recut?${to}`);
        },
      },
    );
  return (
    <>
      <Typography sx={{ mb: 3, maxWidth: 760 }}>{t.measuredLead}</Typography>
      <Box sx={{ display: 'grid', gap: 4, gridTemplateColumns: { xs: '1fr', md: '440px 1fr' } }}>
        <MeasuredSketch of={measured} />
        <div>
          <Row>
            <PickField
              label={t.outline}
              value={measured.outline}
              options={names(fields.data?.outlines ?? [measured.outline])}
              onChange={(outline) =>
                setMeasured({ ...measured, outline: outline as MeasuredStone['outline'] })
              }
            />
            <MaterialField label={t.material} value={material} onChange={setMaterial} />
          </Row>
          <Box sx={{ mt: 3 }}>
            <Row>
              {lengths.map((key) => field(key, 'mm'))}
              {angles.map((key) => field(key, '°'))}
              {counts.map((key) => field(key, ''))}
              <Button
                variant="contained"
                disabled={measured.width === 0 || material === ''}
                onClick={() => setAsked(measured)}
              >
                {t.find}
              </Button>
            </Row>
          </Box>
        </div>
      </Box>
      {found.isFetching && <LinearProgress aria-label={w.common.loading} sx={{ mt: 3 }} />}
      <Refusal error={found.error ?? add.error} />
      {found.data?.found.length === 0 && <Typography role="status">{t.noneLike}</Typography>}
      <Box
        sx={{
          display: 'grid',
          gap: 4,
          mt: 4,
          gridTemplateColumns: 'repeat(auto-fill, minmax(260px, 1fr))',
        }}
      >
        {asked === measured &&
          found.data?.found.map((like) => (
            <Box key={like.diagram} component="figure" sx={{ m: 0 }}>
              <Box sx={{ height: 200 }}>
                <StoneInTheRound mesh={like.mesh} levels={like.levels} label={like.name} />
              </Box>
              <Typography component="figcaption" sx={{ fontWeight: 600 }}>
                {like.name}
              </Typography>
              <Typography color="text.secondary">{t.off(like.off)}</Typography>
              <Box component="ul" sx={{ m: 0, pl: 4 }}>
                {like.residuals.map((r) => (
                  <li key={r.what}>
                    {t.residual(
                      t.measures[keyOf(r.what)],
                      plain(Math.round(r.is * 100) / 100),
                      plain(Math.round(r.fitted * 100) / 100),
                    )}
                  </li>
                ))}
              </Box>
              <Button disabled={add.isPending} onClick={() => take(like)} sx={{ mt: 1 }}>
                {t.takeLike}
              </Button>
            </Box>
          ))}
      </Box>
    </>
  );
}

/** What a quantity is called among the fields. */
const keyOf = (what: Likeness['residuals'][number]['what']) =>
  what.replace('-facets', 'Facets') as keyof typeof t.measures;
