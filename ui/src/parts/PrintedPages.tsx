import Box from '@mui/material/Box';

interface Props {
  /** Pages as SVG documents. */
  pages: readonly string[];
  /** What a page is, by its place from 0. */
  alt: (place: number) => string;
  /** How wide a page stands on the screen, in px at most. */
  width: number;
}

/** Pages as they are printed: on paper each is alone, as wide as the paper. */
export function PrintedPages({ pages, alt, width }: Props) {
  return (
    <Box
      className="sheet-pages"
      sx={{ display: 'flex', flexWrap: 'wrap', gap: 6, p: 6, justifyContent: 'center' }}
    >
      {pages.map((svg, i) => (
        <Box
          key={i}
          component="img"
          src={`data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`}
          alt={alt(i)}
          sx={{
            width: `min(100%, ${width}px)`,
            border: 1,
            borderColor: 'divider',
            background: '#fff',
          }}
        />
      ))}
    </Box>
  );
}
