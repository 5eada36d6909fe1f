import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { workWords as t } from '../../words/works';

/** What can be done to a finished stone: it comes back for repair, or is recut. */
export function MoreWork({ stone }: { stone: string }) {
  return (
    <>
      <Button component={Link} to={`/repairs/new?stone=${stone}`}>
        {t.cameBack}
      </Button>
      <Button component={Link} to={`/recut?stone=${stone}`}>
        {t.recut}
      </Button>
    </>
  );
}
