import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { answer, client } from '../../api/client';
import { Await, PageHead } from '../../parts/Page';
import { PickField } from '../../parts/PickField';
import { sheetWords as s } from '../../words/sheet';

/** The cutting sheet of a diagram or a stone, page by page, for print and PDF. */
export function SheetRoom({ of }: { of: 'diagrams' | 'stones' | 'runs' }) {
  const { id = '' } = useParams();
  const [paper, setPaper] = useState(locale());
  const [pages, setPages] = useState<'1' | '2'>('2');
  const sheet = useQuery({
    queryKey: [of, id, 'sheet', paper, pages],
    queryFn: () => {
      const at = { params: { path: { id, paper, pages } } };
      if (of === 'runs') return answer(client.GET('/api/runs/{id}/sheet/{paper}/{pages}', at));
      return of === 'stones'
        ? answer(client.GET('/api/stones/{id}/sheet/{paper}/{pages}', at))
        : answer(client.GET('/api/diagrams/{id}/sheet/{paper}/{pages}', at));
    },
  });
  return (
    <>
      <Box className="screen-only">
        <PageHead title={s.title} facts={[sheet.data?.title ?? '']}>
          <PickField
            label={s.paper}
            value={paper}
            options={s.papers}
            onChange={setPaper}
            width={110}
          />
          <PickField
            label={s.pages}
            value={pages}
            options={s.counts}
            onChange={setPages}
            width={210}
          />
          <Button component={Link} to={`/${of}/${id}`}>
            {s.back}
          </Button>
          <Button href={`/api/${of}/${id}/sheet/${paper}/${pages}/pdf`} download>
            {s.pdf}
          </Button>
          <Button variant="contained" onClick={() => window.print()}>
            {s.print}
          </Button>
        </PageHead>
      </Box>
      <Await query={sheet}>
        {(d) => (
          <Box
            className="sheet-pages"
            sx={{ display: 'flex', flexWrap: 'wrap', gap: 6, p: 6, justifyContent: 'center' }}
          >
            {d.pages.map((svg, i) => (
              <Box
                key={i}
                component="img"
                src={`data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`}
                alt={s.page(i + 1, d.pages.length)}
                sx={{
                  width: 'min(100%, 560px)',
                  border: 1,
                  borderColor: 'divider',
                  background: '#fff',
                }}
              />
            ))}
          </Box>
        )}
      </Await>
    </>
  );
}

/** The paper that is usual where the reader is. */
function locale(): 'a4' | 'letter' {
  return /-(US|CA|MX|PH|CO|CL)$/.test(navigator.language) ? 'letter' : 'a4';
}
