import { useCallback, useEffect, useRef, useState } from 'preact/hooks';
import {
  type Answers,
  askForm,
  handFormIn,
  keepTyped,
  type MyForm,
  readTyped,
  settled,
  tellAnswers,
} from '~/client-link/form';
import { Refused } from '~/client-link/link';

const fetching: typeof fetch = (...given) => fetch(...given);
const PAUSE_MS = 700;
const AGAIN_MS = 8000;
const OFFLINE = 'No network: what you typed is kept on this phone, and sent when there is.';

/** A form by its link. What is typed is kept on this phone at once, and told to the server after a pause. */
export function useMyForm() {
  const [token] = useState(() => location.hash.replace(/^#/, ''));
  const [form, setForm] = useState<MyForm | null>(null);
  const [typed, setTyped] = useState<Answers>(() => readTyped(localStorage, token));
  const [faults, setFaults] = useState<Record<string, string>>({});
  const [trouble, setTrouble] = useState('');
  const [isTelling, setTelling] = useState(false);
  const now = useRef(typed);
  const later = useRef<ReturnType<typeof setTimeout> | null>(null);

  const put = useCallback(
    (next: Answers) => {
      now.current = next;
      keepTyped(localStorage, token, next);
      setTyped(next);
    },
    [token],
  );
  const said = useCallback((error: unknown) => {
    setTrouble(error instanceof Refused ? error.message : OFFLINE);
  }, []);
  const tell = useCallback(async (): Promise<boolean> => {
    clearTimeout(later.current ?? undefined);
    if (!Object.keys(now.current).length) return true;
    setTelling(true);
    try {
      const { kept, faults } = await tellAnswers(fetching, token, now.current);
      setForm((old) => old && { ...old, answers: { ...old.answers, ...kept } });
      put(settled(now.current, kept));
      setFaults(faults);
      setTrouble('');
      return !Object.keys(faults).length;
    } catch (error) {
      said(error);
      later.current = setTimeout(() => void tell(), AGAIN_MS);
      return false;
    } finally {
      setTelling(false);
    }
  }, [token, put, said]);
  const read = useCallback(async () => {
    try {
      setForm(await askForm(fetching, token));
      setTrouble('');
      void tell();
    } catch (error) {
      said(error);
    }
  }, [token, tell, said]);
  useEffect(() => {
    void read();
    const again = () => void tell();
    // Another link is another form.
    const anew = () => location.reload();
    window.addEventListener('online', again);
    window.addEventListener('hashchange', anew);
    // What was typed last is told before the phone puts the page away.
    document.addEventListener('visibilitychange', again);
    return () => {
      window.removeEventListener('online', again);
      window.removeEventListener('hashchange', anew);
      document.removeEventListener('visibilitychange', again);
    };
  }, [read, tell]);
  const change = (answers: Answers) => {
    put({ ...now.current, ...answers });
    setFaults((old) => Object.fromEntries(Object.entries(old).filter(([field]) => !(field in answers))));
    clearTimeout(later.current ?? undefined);
    later.current = setTimeout(() => void tell(), PAUSE_MS);
  };
  const handIn = async () => {
    if (!(await tell())) return;
    try {
      await handFormIn(fetching, token);
      setTrouble('');
      await read();
    } catch (error) {
      if (error instanceof Refused) setFaults(error.faults);
      said(error);
    }
  };
  return {
    form,
    answers: form ? { ...form.answers, ...typed } : null,
    waits: Object.keys(typed).length > 0,
    isTelling,
    faults,
    trouble,
    change,
    handIn,
    read,
  };
}

export type FormState = ReturnType<typeof useMyForm>;
