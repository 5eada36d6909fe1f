import ArrowDownward from '@mui/icons-material/ArrowDownward';
import ArrowUpward from '@mui/icons-material/ArrowUpward';
import DeleteOutlined from '@mui/icons-material/DeleteOutlined';
import VisibilityOffOutlined from '@mui/icons-material/VisibilityOffOutlined';
import VisibilityOutlined from '@mui/icons-material/VisibilityOutlined';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import IconButton from '@mui/material/IconButton';
import { memo } from 'react';
import { editingWords } from '../../../words/editing';
import { w } from '../../../words/words';
import type { TierActs } from './tierActs';
import { TierMenu } from './TierMenu';

interface Props {
  tierKey: string;
  name: string;
  place: number;
  last: boolean;
  optional: boolean;
  off: boolean;
  acts: TierActs;
}

/** What can be done with the tier that is being worked on. */
export const TierTools = memo(function TierTools(props: Props) {
  const { tierKey, name, place, last, optional, off, acts } = props;
  return (
    <>
      <FormControlLabel
        sx={{ ml: 1 }}
        control={
          <Checkbox
            checked={optional}
            onChange={(e) => acts.change(tierKey, { optional: e.target.checked })}
          />
        }
        label={w.diagrams.optional}
      />
      {optional && (
        <IconButton
          onClick={() => acts.off(tierKey)}
          aria-pressed={off}
          aria-label={off ? editingWords.tier.on(name) : editingWords.tier.off(name)}
        >
          {off ? <VisibilityOffOutlined /> : <VisibilityOutlined />}
        </IconButton>
      )}
      <Button size="small" onClick={() => acts.pull(tierKey)}>
        {editingWords.pull.start(name)}
      </Button>
      <IconButton
        onClick={() => acts.move(place, place - 1)}
        disabled={place === 0}
        aria-label={w.diagrams.up(name)}
      >
        <ArrowUpward />
      </IconButton>
      <IconButton
        onClick={() => acts.move(place, place + 1)}
        disabled={last}
        aria-label={w.diagrams.down(name)}
      >
        <ArrowDownward />
      </IconButton>
      <IconButton onClick={() => acts.remove(tierKey)} aria-label={w.diagrams.remove(name)}>
        <DeleteOutlined />
      </IconButton>
      <TierMenu
        name={name}
        tier={place}
        draft={acts.draft}
        onReshape={(how) => acts.reshape(tierKey, how)}
        onAngle={(angle) => acts.change(tierKey, { angle })}
      />
    </>
  );
});
