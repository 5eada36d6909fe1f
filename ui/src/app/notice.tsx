import Button from '@mui/material/Button';
import Snackbar from '@mui/material/Snackbar';
import { createContext, useContext, useMemo, useState, type ReactNode } from 'react';

interface Notice {
  text: string;
  action?: { label: string; run: () => void };
}

const NoticeContext = createContext<(n: Notice) => void>(() => {});

/** Says in passing what was done, with a way to take it back. */
export const useNotice = (): ((n: Notice) => void) => useContext(NoticeContext);

export function NoticeProvider({ children }: { children: ReactNode }) {
  const [notice, setNotice] = useState<Notice | null>(null);
  const say = useMemo(() => (n: Notice) => setNotice(n), []);
  const close = () => setNotice(null);
  const action = notice?.action;
  return (
    <NoticeContext value={say}>
      {children}
      {notice && (
        <Snackbar
          open
          onClose={(_, reason) => reason !== 'clickaway' && close()}
          autoHideDuration={action ? 12000 : 4000}
          message={notice.text}
          action={
            action && (
              <Button
                variant="text"
                onClick={() => {
                  action.run();
                  close();
                }}
              >
                {action.label}
              </Button>
            )
          }
        />
      )}
    </NoticeContext>
  );
}
