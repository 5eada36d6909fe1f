import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { StoneLine } from '../../api/client';
import type { CameBack } from '../../api/recuts';
import { materialsQuery } from '../../api/settings';
import { MaterialField } from '../../parts/fields/MaterialField';
import { NumberField } from '../../parts/fields/NumberField';
import { PageHead } from '../../parts/Page';
import { Row } from '../../parts/Row';
import { titleOf } from '../../parts/work/naming';
import { recutWords as t } from '../../words/recut';
import { ChooseForm } from './ChooseForm';
import { MeasuredForm } from './MeasuredForm';

/** Which diagram a stone follows, how wide it is, and of what. */
export function AskForm({ of, stone }: { of: CameBack; stone?: StoneLine | undefined }) {
  const navigate = useNavigate();
  const materials = useQuery(materialsQuery).data ?? [];
  const [diagram, setDiagram] = useState<string>();
  const [width, setWidth] = useState(of.widthMM || stone?.sizeMM || 8);
  const [material, setMaterial] = useState(of.material || stone?.material || '');
  const [by, setBy] = useState<'diagram' | 'measures'>('diagram');
  const known = materials.some((m) => m.name === material);
  const show = () => {
    const to = new URLSearchParams({ diagram: diagram!, width: String(width), material });
    if (of.stone) to.set('stone', of.stone);
    void navigate(`/recut?${to}`);
  };
  return (
    <>
      <PageHead title={stone ? t.title(`${stone.number} · ${titleOf(stone)}`) : t.anyTitle} />
      <Box sx={{ p: 6 }}>
        <ToggleButtonGroup
          exclusive
          value={by}
          onChange={(_, v: typeof by | null) => v && setBy(v)}
          sx={{ mb: 4 }}
        >
          <ToggleButton value="diagram">{t.byDiagram}</ToggleButton>
          <ToggleButton value="measures">{t.byMeasures}</ToggleButton>
        </ToggleButtonGroup>
        {by === 'measures' ? (
          <MeasuredForm
            stone={of.stone}
            material={material}
            start={{ width: of.widthMM || stone?.sizeMM || 0 }}
          />
        ) : (
          <>
            <Typography sx={{ mb: 4 }}>{t.anyLead}</Typography>
            <Row>
              <NumberField
                label={t.width}
                unit="mm"
                min={0.1}
                max={500}
                value={width}
                onChange={setWidth}
              />
              <MaterialField label={t.material} value={material} onChange={setMaterial} />
              <Button variant="contained" disabled={!diagram || !known} onClick={show}>
                {t.show}
              </Button>
            </Row>
            <ChooseForm chosen={diagram} onChoose={setDiagram} />
          </>
        )}
      </Box>
    </>
  );
}
