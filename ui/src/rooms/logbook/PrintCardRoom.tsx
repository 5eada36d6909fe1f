import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { printedCardQuery, stoneLineQuery } from '../../api/stones';
import { PickField } from '../../parts/fields/PickField';
import { Await, PageHead } from '../../parts/Page';
import { PrintedPages } from '../../parts/PrintedPages';
import { cardWords as t } from '../../words/card';
import { sheetWords } from '../../words/sheet';

/** The card of a finished stone as it is printed, for the buyer or the drawer. */
export function PrintCardRoom() {
  const { id = '' } = useParams();
  const [paper, setPaper] = useState('a6');
  const [who, setWho] = useState<'buyer' | 'drawer'>('buyer');
  const [price, setPrice] = useState(false);
  const card = useQuery(printedCardQuery({ id, paper }, { for: who, price }));
  const line = useQuery(stoneLineQuery(id));
  const priced = (line.data?.finish?.price ?? 0) > 0;
  return (
    <>
      <Box className="screen-only">
        <PageHead title={t.printTitle} facts={[card.data?.title ?? '']}>
          <PickField label={t.for} value={who} options={t.fors} onChange={setWho} width={150} />
          <PickField
            label={t.paper}
            value={paper}
            options={t.papers}
            onChange={setPaper}
            width={180}
          />
          <FormControlLabel
            disabled={!priced}
            title={priced ? undefined : t.noPrice}
            control={<Checkbox checked={price && priced} onChange={(_, on) => setPrice(on)} />}
            label={t.withPrice}
          />
          <Button component={Link} to={`/stones/${id}`}>
            {sheetWords.back}
          </Button>
          <Button href={`/api/stones/${id}/print/${paper}/pdf?for=${who}&price=${price}`} download>
            {sheetWords.pdf}
          </Button>
          <Button variant="contained" onClick={() => window.print()}>
            {sheetWords.print}
          </Button>
        </PageHead>
      </Box>
      <Await query={card}>
        {(d) => <PrintedPages pages={d.pages} alt={() => t.alt} width={880} />}
      </Await>
    </>
  );
}
