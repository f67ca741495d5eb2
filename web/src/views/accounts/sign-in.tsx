import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useNavigate, useSearch } from '@tanstack/react-router';
import { type FormEvent, useState } from 'react';
import { api, ask, keepWhose, toProblem } from '~/api/client';
import { installationQuery, sessionQuery } from '~/api/session';
import { keepDraftsOf } from '~/lib/use-draft';
import { tellWhoIsHere } from '~/offline/person';
import { Button } from '~/parts/button';
import { Field } from '~/parts/field';
import { Notice, ProblemNotice } from '~/parts/notice';
import { Page } from '~/parts/page';

export function SignIn() {
  const { next } = useSearch({ from: '/sign-in' });
  const navigate = useNavigate();
  const client = useQueryClient();
  const installation = useQuery(installationQuery);
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const signIn = useMutation({
    mutationFn: () => ask(api.POST('/api/v1/session', { body: { email, password } })),
    onSuccess: (account) => {
      keepWhose(account);
      tellWhoIsHere(account.email);
      keepDraftsOf(account.email);
      client.setQueryData(sessionQuery.queryKey, account);
      void navigate({ href: next ?? '/', replace: true });
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    signIn.mutate();
  };
  const demo = installation.data?.demo;
  return (
    <div className="mx-auto mt-[8vh] max-w-md">
      <p className="px-5 font-heading text-4xl font-bold">Yantai</p>
      <Page title="Sign in">
        <form onSubmit={submit} className="space-y-4">
          <Field
            label="E-mail address"
            type="email"
            name="email"
            autoComplete="username"
            required
            value={email}
            onChange={(event) => setEmail(event.target.value)}
          />
          <Field
            label="Password"
            type="password"
            name="password"
            autoComplete="current-password"
            required
            value={password}
            onChange={(event) => setPassword(event.target.value)}
          />
          {signIn.isError ? <ProblemNotice problem={toProblem(signIn.error)} /> : null}
          <Button type="submit" look="main" className="w-full" disabled={signIn.isPending}>
            {signIn.isPending ? 'Signing in …' : 'Sign in'}
          </Button>
        </form>
        {demo ? (
          <div className="mt-6">
            <Notice title="Demo installation">
              <p className="mb-3">
                Sign in as <span className="figures">{demo.email}</span> with the password{' '}
                <span className="figures">{demo.password}</span>. Everything in it is invented.
              </p>
              <Button
                onClick={() => {
                  setEmail(demo.email);
                  setPassword(demo.password);
                }}
              >
                Fill these in
              </Button>
            </Notice>
          </div>
        ) : null}
      </Page>
    </div>
  );
}
