/**
 * A session that ended while somebody was at work. The call that found out waits here until they have signed in again
 * on the spot, so nothing typed is lost.
 */

type Listener = (answer: (signedIn: boolean) => void) => void;

let listener: Listener | null = null;
let asked: Promise<boolean> | null = null;

/** Who asks the person to sign in: the page shell, while it stands. */
export function onSessionEnded(ask: Listener) {
  listener = ask;
  return () => {
    listener = null;
  };
}

/** Ask, once for all calls that wait; whether somebody signed in. */
export function signInAgain(): Promise<boolean> {
  const ask = listener;
  if (!ask) return Promise.resolve(false);
  asked ??= new Promise<boolean>((resolve) => ask(resolve)).finally(() => {
    asked = null;
  });
  return asked;
}
