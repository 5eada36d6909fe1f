import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { MountedDop } from '../../api/gluing';
import { ChoiceList } from '../../parts/ChoiceList';
import { gluingWords } from '../../words/gluing';
import { duration } from '../../words/numbers';
import type { Glue } from './glues';
import { Remarks } from './Remarks';

const k = gluingWords.glue;

interface Props {
  glues: readonly Glue[];
  dop: MountedDop;
  chosen: number;
  /** The place of the one that the plan names, -1 for none. */
  inPlan: number;
  onChoose: (place: number) => void;
}

/** What could glue the stone to a dop, what suits it best first. */
export function AdhesiveList({ glues, dop, chosen, inPlan, onChoose }: Props) {
  return (
    <Box component="section" aria-label={k.head} sx={{ mb: 3 }}>
      <Typography variant="h3" gutterBottom>
        {k.head}
      </Typography>
      <ChoiceList
        label={k.head}
        list={glues}
        keyOf={(x) => x.item || x.name}
        isChosen={(_, i) => i === chosen}
        onChoose={(_, i) => onChoose(i)}
        row={52}
      >
        {(x, i) => {
          const bond = dop.bonds.find((b) => b.sort === x.sort?.sort);
          return (
            <Box sx={{ flexGrow: 1, minWidth: 0, py: 1 }}>
              <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
                <span>{x.name}</span>
                <Box component="span" sx={{ fontWeight: 400 }}>
                  {[
                    i === inPlan ? gluingWords.held.taken : '',
                    x.item === '' ? gluingWords.held.usual : '',
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </Box>
              </Box>
              <Typography variant="body2">
                {[
                  bond ? k.bears(bond.bears) : '',
                  x.minutes > 0 ? k.cures(duration(x.minutes)) : '',
                ]
                  .filter(Boolean)
                  .join(' · ')}
              </Typography>
              <Remarks list={[...(bond?.concerns ?? []), ...x.needs]} />
            </Box>
          );
        }}
      </ChoiceList>
    </Box>
  );
}
