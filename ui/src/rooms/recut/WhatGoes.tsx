import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import type { ReturnedStone } from '../../api/recuts';
import { NumberField } from '../../parts/fields/NumberField';
import { Row } from '../../parts/Row';
import { recutWords as t, type Tool } from '../../words/recut';
import type { Mark } from './marks';
import type { Marked } from './RecutDesk';

interface Props {
  returned: ReturnedStone;
  marked: Marked;
  onChange: (marked: Marked) => void;
  tool: Tool;
  onTool: (tool: Tool) => void;
  /** The damage that is chosen. */
  no: number;
  onNo: (no: number) => void;
}

/** What is marked on the stone, and with what a click marks it. */
export function WhatGoes({ returned, marked, onChange, tool, onTool, no, onNo }: Props) {
  const { marks } = marked;
  const tools: Tool[] = [
    'chip',
    ...(marks[no]?.kind === 'chip' ? ['more' as const] : []),
    'edge',
    'face',
    'keep',
  ];
  const now = tools.includes(tool) ? tool : 'chip';
  const set = (i: number, change: Partial<Mark>) =>
    onChange({ ...marked, marks: marks.map((m, k) => (k === i ? { ...m, ...change } : m)) });
  const names = returned.facets.filter((f) => marked.protected.includes(f.face)).map((f) => f.name);
  return (
    <>
      <ToggleButtonGroup
        exclusive
        value={now}
        onChange={(_, v: Tool | null) => v && onTool(v)}
        aria-label={t.mark}
        sx={{ flexWrap: 'wrap' }}
      >
        {tools.map((each) => (
          <ToggleButton key={each} value={each}>
            {t.tools[each]}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Typography color="text.secondary" sx={{ my: 1 }}>
        {t.how[now]}
      </Typography>
      <Typography variant="h3">{t.damages}</Typography>
      {marks.length === 0 && <Typography role="status">{t.none}</Typography>}
      {marks.map((mark, i) => (
        <Box
          key={i}
          onFocus={() => onNo(i)}
          onClick={() => onNo(i)}
          sx={{
            display: 'flex',
            alignItems: 'center',
            gap: 3,
            px: 1,
            py: 1,
            background: (theme) => (i === no ? theme.tokens.copperWash : undefined),
          }}
        >
          <Typography sx={{ flexGrow: 1, fontWeight: 600 }}>
            {t.damage(i + 1, mark.kind, mark.points.length)}
          </Typography>
          <NumberField
            label={`${t.deep} ${i + 1}`}
            unit="mm"
            min={0.001}
            max={20}
            width={130}
            value={mark.depth}
            onChange={(depth) => set(i, { depth })}
          />
          <Button
            aria-label={t.remove(i + 1)}
            onClick={(e) => {
              e.stopPropagation();
              onChange({ ...marked, marks: marks.filter((_, k) => k !== i) });
              onNo(Math.max(0, Math.min(no, marks.length - 2)));
            }}
          >
            ×
          </Button>
        </Box>
      ))}
      <Box sx={{ mt: 3 }}>
        <Row>
          <NumberField
            label={t.clearance}
            unit="mm"
            min={0}
            max={10}
            width={200}
            value={marked.clearance}
            onChange={(clearance) => onChange({ ...marked, clearance })}
          />
          <NumberField
            label={t.turned}
            unit="°"
            min={0}
            max={10}
            width={250}
            value={marked.degrees}
            onChange={(degrees) => onChange({ ...marked, degrees })}
          />
        </Row>
        <FormControlLabel
          control={
            <Switch
              checked={marked.hides !== undefined}
              onChange={(_, on) => onChange({ ...marked, hides: on ? 0.2 : undefined })}
            />
          }
          label={t.hidden}
          title={t.hiddenHelp}
        />
        {marked.hides !== undefined && (
          <NumberField
            label={t.hides}
            unit="mm"
            min={0}
            max={20}
            width={200}
            value={marked.hides}
            onChange={(hides) => onChange({ ...marked, hides })}
          />
        )}
        {names.length > 0 && <Typography>{t.protectedFacets(names.join(', '))}</Typography>}
      </Box>
    </>
  );
}
