import Autocomplete from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';
import { useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { libraryQuery } from '../../api/diagrams';
import { w } from '../../words/words';

/** A field in which a diagram of the library is found by its name. */
export function PickDiagram({
  label,
  without,
  onPick,
}: {
  label: string;
  without: readonly string[];
  onPick: (id: string, name: string) => void;
}) {
  const [text, setText] = useState('');
  const found = useInfiniteQuery(libraryQuery({ text, limit: 40 }));
  const options = (found.data?.pages[0]?.diagrams ?? []).filter((d) => !without.includes(d.id));
  return (
    <Autocomplete
      options={options}
      // The server has looked for the words already.
      filterOptions={(all) => all}
      getOptionLabel={(d) => d.name || w.diagrams.noName}
      getOptionKey={(d) => d.id}
      value={null}
      inputValue={text}
      onInputChange={(_, v, why) => setText(why === 'input' ? v : '')}
      onChange={(_, d) => d && onPick(d.id, d.name)}
      loading={found.isFetching}
      noOptionsText={w.diagrams.none}
      renderInput={(params) => <TextField {...params} label={label} />}
      sx={{ width: 240 }}
    />
  );
}
