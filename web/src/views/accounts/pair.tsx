import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useNavigate, useSearch } from '@tanstack/react-router';
import { type FormEvent, useState } from 'react';
import { api, ask, keepWhose, toProblem } from '~/api/client';
import { homeOf, sessionQuery } from '~/api/session';
import { deviceName } from '~/lib/device';
import { keepDraftsOf } from '~/lib/use-draft';
import { tellWhoIsHere } from '~/offline/person';
import { Button } from '~/parts/button';
import { Field } from '~/parts/field';
import { ProblemNotice } from '~/parts/notice';
import { Page } from '~/parts/page';

/** A helper signs in by the code that the coach shows. It is not taken by opening its address: that would use it up. */
export function Pair() {
  const { code: scanned } = useSearch({ from: '/pair' });
  const navigate = useNavigate();
  const client = useQueryClient();
  const [code, setCode] = useState(scanned ?? '');
  const pair = useMutation({
    mutationFn: () => ask(api.POST('/api/v1/session/paired', { body: { code, device: deviceName() } })),
    onSuccess: (account) => {
      keepWhose(account);
      tellWhoIsHere(account.email);
      keepDraftsOf(account.email);
      client.clear();
      client.setQueryData(sessionQuery.queryKey, account);
      void navigate({ to: homeOf(account), replace: true });
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    pair.mutate();
  };
  return (
    <div className="mx-auto mt-[8vh] max-w-md">
      <p className="px-5 font-heading text-4xl font-bold">Yantai</p>
      <Page title="Help in this kitchen">
        <form onSubmit={submit} className="space-y-4">
          <Field
            label="Code from the coach"
            autoCapitalize="characters"
            value={code}
            onChange={(event) => setCode(event.target.value)}
            hint="Ten letters and digits. It works once, for ten minutes."
          />
          {pair.isError ? <ProblemNotice problem={toProblem(pair.error)} /> : null}
          <Button
            type="submit"
            look="main"
            className="min-h-14 w-full"
            disabled={!code.trim() || pair.isPending}
          >
            {pair.isPending ? 'Signing in …' : 'Use this device to help'}
          </Button>
        </form>
      </Page>
    </div>
  );
}
