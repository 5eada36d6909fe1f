import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';

interface Props {
  /** What the two columns are called. */
  heads: readonly [string, string];
  /** A name with two figures; where they differ the second stands out. */
  rows: readonly (readonly [string, string, string])[];
}

/** The figures of a stone beside those of another. */
export function BeforeAndAfter({ heads, rows }: Props) {
  return (
    <Box component="table" sx={{ borderCollapse: 'collapse', alignSelf: 'start' }}>
      <thead>
        <tr>
          <td />
          {heads.map((head) => (
            <Box component="th" scope="col" key={head} sx={{ textAlign: 'right', pl: 3 }}>
              {head}
            </Box>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(([name, was, is]) => (
          <tr key={name}>
            <Box
              component="th"
              scope="row"
              sx={{ textAlign: 'left', fontWeight: 400, color: 'text.secondary' }}
            >
              {name}
            </Box>
            {[was, is].map((value, k) => (
              <Box component="td" key={k} sx={{ textAlign: 'right', pl: 3, whiteSpace: 'nowrap' }}>
                <Typography
                  variant="figures"
                  sx={{ fontWeight: k === 1 && was !== is ? 700 : undefined }}
                >
                  {value}
                </Typography>
              </Box>
            ))}
          </tr>
        ))}
      </tbody>
    </Box>
  );
}
