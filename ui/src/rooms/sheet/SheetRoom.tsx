import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { sheetQuery } from '../../api/diagrams';
import { Await, PageHead } from '../../parts/Page';
import { PrintedPages } from '../../parts/PrintedPages';
import { PickField } from '../../parts/fields/PickField';
import { sheetWords as s } from '../../words/sheet';

/** The cutting sheet of a diagram or a stone, page by page, for print and PDF. */
export function SheetRoom({ of }: { of: 'diagrams' | 'stones' | 'runs' }) {
  const { id = '' } = useParams();
  const [paper, setPaper] = useState(usualPaper());
  const [pages, setPages] = useState<'1' | '2'>('2');
  const sheet = useQuery(sheetQuery(of, { id, paper, pages }));
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
          <PrintedPages pages={d.pages} alt={(i) => s.page(i + 1, d.pages.length)} width={560} />
        )}
      </Await>
    </>
  );
}

/** The paper that is usual where the reader is. */
function usualPaper(): 'a4' | 'letter' {
  return /-(US|CA|MX|PH|CO|CL)$/.test(navigator.language) ? 'letter' : 'a4';
}
