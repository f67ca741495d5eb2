import { useCallback, useEffect, useRef, useState } from 'preact/hooks';
import {
  addWish,
  askPage,
  forget,
  handIn,
  keepPage,
  type MyPage,
  Refused,
  readKept,
  readToken,
  readWaiting,
  type Wish,
  withWaiting,
} from '~/client-link/link';

const ask: typeof fetch = (...given) => fetch(...given);

export type Shown = {
  page: MyPage | null;
  /** When what is shown was told, where the server cannot be reached now. */
  since: string | null;
  waiting: number;
  /** Why there is nothing to show. */
  trouble: string;
  refused: string[];
};

/** The page as the server tells it, or as this phone has kept it; what was told waits until it is handed in. */
export function useMyPage() {
  const [token, setToken] = useState(() => readToken(location.hash, localStorage));
  const [shown, setShown] = useState<Shown>(() => {
    const kept = readKept(localStorage);
    return {
      page: kept ? withWaiting(kept.page, readWaiting(localStorage)) : null,
      since: null,
      waiting: readWaiting(localStorage).length,
      trouble: '',
      refused: [],
    };
  });
  const askNow = useCallback(async () => {
    if (!token) {
      setShown((now) => ({
        ...now,
        page: null,
        trouble: 'Open this page by the link that your coach sent you.',
      }));
      return;
    }
    const refused = await handIn(ask, token, localStorage);
    const said = (now: Shown) => [...now.refused, ...refused];
    try {
      const page = await askPage(ask, token);
      keepPage(localStorage, page, new Date());
      const waiting = readWaiting(localStorage);
      setShown((now) => ({
        page: withWaiting(page, waiting),
        since: null,
        waiting: waiting.length,
        trouble: '',
        refused: said(now),
      }));
    } catch (error) {
      if (error instanceof Refused && error.status === 404) {
        // The link works no more: what it showed is nobody's business any longer.
        forget(localStorage);
        setShown({ page: null, since: null, waiting: 0, trouble: error.message, refused: [] });
        return;
      }
      const kept = readKept(localStorage);
      const waiting = readWaiting(localStorage);
      setShown((now) => ({
        page: kept ? withWaiting(kept.page, waiting) : null,
        since: kept?.at ?? null,
        waiting: waiting.length,
        trouble: kept
          ? ''
          : error instanceof Refused
            ? error.message
            : 'There is no network, and this phone has not seen the page before. Try again when there is.',
        refused: said(now),
      }));
    }
  }, [token]);
  // One after another: an answer that was asked for before something was handed in would show what was before it.
  const running = useRef(Promise.resolve());
  const renew = useCallback(() => {
    running.current = running.current.then(askNow);
    return running.current;
  }, [askNow]);
  useEffect(() => {
    void renew();
    const again = () => {
      if (document.visibilityState === 'visible') void renew();
    };
    const anew = () => setToken(readToken(location.hash, localStorage));
    window.addEventListener('online', again);
    window.addEventListener('hashchange', anew);
    document.addEventListener('visibilitychange', again);
    return () => {
      window.removeEventListener('online', again);
      window.removeEventListener('hashchange', anew);
      document.removeEventListener('visibilitychange', again);
    };
  }, [renew]);
  const tell = (wish: Omit<Wish, 'id'>) => {
    addWish(localStorage, wish);
    const waiting = readWaiting(localStorage);
    setShown((now) => ({
      ...now,
      page: now.page && withWaiting(now.page, waiting),
      waiting: waiting.length,
      refused: [],
    }));
    void renew();
  };
  return { ...shown, token, tell, renew };
}

export type Tell = ReturnType<typeof useMyPage>['tell'];
