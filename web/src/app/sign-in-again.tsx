import { useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useEffect, useRef, useState } from 'react';
import { api, ask, keepWhose, type Problem, toProblem } from '~/api/client';
import { sessionQuery } from '~/api/session';
import { onSessionEnded } from '~/api/sign-in-again';
import { leavePage, tellWhoIsHere } from '~/offline/person';
import { getOutbox } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Overlaid } from '~/parts/dialog';
import { Field } from '~/parts/field';
import { ProblemNotice } from '~/parts/notice';

/** Signing in on the spot, over the page and all that is typed in it. */
export function SignInAgain() {
  const client = useQueryClient();
  const answer = useRef<((signedIn: boolean) => void) | null>(null);
  const [open, setOpen] = useState(false);
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);

  useEffect(
    () =>
      onSessionEnded((resolve) => {
        answer.current = resolve;
        setEmail(client.getQueryData(sessionQuery.queryKey)?.email ?? '');
        setPassword('');
        setProblem(null);
        setOpen(true);
      }),
    [client],
  );
  const done = (signedIn: boolean) => {
    setOpen(false);
    answer.current?.(signedIn);
    answer.current = null;
  };
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    try {
      const account = await ask(api.POST('/api/v1/session', { body: { email, password } }));
      const before = client.getQueryData(sessionQuery.queryKey);
      keepWhose(account);
      tellWhoIsHere(account.email);
      if (before && before.email !== account.email) {
        // Another person's kitchen: nothing of this page belongs to it.
        leavePage();
        return;
      }
      client.setQueryData(sessionQuery.queryKey, account);
      done(true);
      getOutbox().kick();
    } catch (error) {
      setProblem(toProblem(error));
    }
  };
  return (
    <Overlaid
      layer="top"
      open={open}
      onOpenChange={(next) => (next ? undefined : done(false))}
      title="Sign in again"
      detail="Your session has ended. What you typed is still here and is saved as soon as you are back."
    >
      <form onSubmit={(event) => void submit(event)} noValidate className="space-y-4">
        <Field
          label="E-mail address"
          type="email"
          autoComplete="username"
          value={email}
          onChange={(event) => setEmail(event.target.value)}
        />
        <Field
          label="Password"
          type="password"
          autoComplete="current-password"
          autoFocus
          value={password}
          onChange={(event) => setPassword(event.target.value)}
        />
        {problem ? <ProblemNotice problem={problem} /> : null}
        <div className="flex justify-end gap-3">
          <Button type="button" onClick={() => done(false)}>
            Not now
          </Button>
          <Button type="submit" look="main">
            Sign in
          </Button>
        </div>
      </form>
    </Overlaid>
  );
}
