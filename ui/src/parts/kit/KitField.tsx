import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { shelfQuery, type ItemKind, type Shelved } from '../../api/kit';
import { kitWords as k } from '../../words/kit';
import { micron } from '../../words/numbers';

interface Props {
  label: string;
  kind: ItemKind;
  /** The words, and the ID of the thing of the kit that they name; '' where they are words alone. */
  text: string;
  item: string;
  placeholder?: string;
  onChange: (text: string, item: string) => void;
  flex?: number;
}

/** A thing of the kit, or words for one that is not on the shelf. */
export function KitField({ label, kind, text, item, placeholder, onChange, flex = 1 }: Props) {
  const { data: shelf = [] } = useQuery(shelfQuery);
  const things = shelf.filter((s) => s.item.kind === kind && !s.gone);
  const chosen = shelf.find((s) => s.item.id === item);
  return (
    <Autocomplete<Shelved, false, true, true>
      freeSolo
      disableClearable
      openOnFocus
      options={things}
      getOptionLabel={(o) => (typeof o === 'string' ? o : o.item.name)}
      getOptionKey={(o) => (typeof o === 'string' ? o : o.item.id)}
      filterOptions={(all) => (chosen ? all : fitting(all, text))}
      inputValue={text}
      value={chosen ?? text}
      isOptionEqualToValue={(a, b) => a.item.id === (b as Shelved | undefined)?.item?.id}
      onInputChange={(_, typed, reason) => {
        if (reason === 'input')
          onChange(typed, things.find((s) => s.item.name === typed)?.item.id ?? '');
      }}
      onChange={(_, o) =>
        typeof o === 'string' ? onChange(o, '') : onChange(o.item.name, o.item.id)
      }
      renderOption={({ key, ...row }, s) => (
        <Box component="li" key={key} {...row}>
          <Box sx={{ minWidth: 0 }}>
            <Typography>{s.item.name}</Typography>
            <Typography variant="body2" color="text.secondary">
              {particulars(s)}
            </Typography>
            {s.needs.slice(0, 1).map((n) => (
              <Typography key={n.need} variant="body2" color={n.grave ? 'error' : 'secondary'}>
                {n.text}
              </Typography>
            ))}
          </Box>
        </Box>
      )}
      renderInput={(input) => (
        <TextField
          {...input}
          label={label}
          placeholder={placeholder}
          helperText={chosen?.gone ? k.pick.gone : undefined}
        />
      )}
      sx={{ flex, minWidth: 90 }}
    />
  );
}

/** The things whose name has the words; all where none has. A thing that was chosen filters nothing. */
function fitting(things: Shelved[], words: string): Shelved[] {
  const found = things.filter((s) =>
    s.item.name.toLowerCase().includes(words.trim().toLowerCase()),
  );
  return found.length > 0 ? found : things;
}

/** What tells a thing from its like. */
function particulars({ item, grain, charge, stones, facets }: Shelved): string {
  const finest = grain || item.compound?.grain;
  return [
    finest ? micron(finest) : '',
    charge ? charge.name : '',
    item.lap?.keptFor ? `${k.fields.keptFor} ${item.lap.keptFor}` : '',
    stones > 0 ? k.work(stones, facets) : k.notYet,
  ]
    .filter(Boolean)
    .join(' · ');
}
