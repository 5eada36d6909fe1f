import Button from '@mui/material/Button';
import Snackbar from '@mui/material/Snackbar';
import { createContext, useContext, useMemo, useRef, useState, type ReactNode } from 'react';

interface Notice {
  text: string;
  action?: { label: string; run: () => void };
}

const NoticeContext = createContext<(n: Notice) => void>(() => {});

/** Says in passing what was done, with a way to take it back. */
export const useNotice = (): ((n: Notice) => void) => useContext(NoticeContext);

export function NoticeProvider({ children }: { children: ReactNode }) {
  const [notice, setNotice] = useState<(Notice & { no: number }) | null>(null);
  const count = useRef(0);
  const say = useMemo(() => (n: Notice) => setNotice({ ...n, no: ++count.current }), []);
  const close = () => setNotice(null);
  const action = notice?.action;
  return (
    <NoticeContext value={say}>
      {children}
      {notice && (
        // Each has its own time: one that follows another does not go with it.
        <Snackbar
          key={notice.no}
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
