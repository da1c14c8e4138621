import type { ReactNode } from 'react';
import { createContext, useCallback, useContext, useMemo, useState } from 'react';

interface Notice {
  readonly words: string;
  readonly urgent: boolean;
}

const NoticeContext = createContext<(words: string, urgent?: boolean) => void>(() => undefined);

/** Says in the foot of the page what was just done or refused. */
export const useNotice = () => useContext(NoticeContext);

export function NoticeProvider({ children }: { children: ReactNode }) {
  const [notice, setNotice] = useState<Notice | null>(null);
  const say = useCallback((words: string, urgent = false) => {
    const said = { words, urgent };
    setNotice(said);
    setTimeout(() => setNotice((current) => (current === said ? null : current)), urgent ? 12_000 : 5000);
  }, []);
  return (
    <NoticeContext.Provider value={useMemo(() => say, [say])}>
      {children}
      <div role="status" aria-live="polite" className="no-print fixed bottom-3 left-4 z-30">
        {notice && (
          <p className={`border-l-2 bg-raised px-3 py-1.5 shadow ${notice.urgent ? 'border-signal' : 'border-brass'}`}>
            {notice.words}
          </p>
        )}
      </div>
    </NoticeContext.Provider>
  );
}
