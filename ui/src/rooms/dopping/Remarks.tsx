import Box from '@mui/material/Box';

/** What speaks against something, each with its sign. */
export function Remarks({ list }: { list: readonly { text: string; grave: boolean }[] }) {
  return list.map((x) => (
    <Box key={x.text} sx={{ fontWeight: 400, lineHeight: 1.4 }}>
      <Box component="span" sx={{ fontWeight: 700 }}>
        {x.grave ? '✕' : '!'}
      </Box>{' '}
      {x.text}
    </Box>
  ));
}
