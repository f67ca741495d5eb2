import { queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, ask, type Schemas, toProblem } from '~/api/client';
import { moment } from '~/lib/format';
import { call, write } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Field, Tick } from '~/parts/field';
import { LoadFailed, ProblemNotice } from '~/parts/notice';
import { showProblem } from '~/parts/show-problem';

const devicesQuery = queryOptions({
  queryKey: ['devices'],
  queryFn: () => ask(api.GET('/api/v1/devices')),
});

const ABOUT = { about: 'devices', href: '/settings' };

type Right = Schemas['PairingInput']['rights'][number];

/** What a device may be given the right to, and what is said of one that has it. */
const RIGHTS: { right: Right; may: string; does: string }[] = [
  { right: 'shop', may: 'Walk the shopping list', does: 'shops' },
  { right: 'cook', may: 'Cook, weigh and fill', does: 'cooks, weighs and fills' },
];

/** Devices of helpers: a code for a new one with what it may do, and what is signed in. */
export function Devices() {
  const queries = useQueryClient();
  const devices = useQuery(devicesQuery);
  const [helper, setHelper] = useState('');
  const [rights, setRights] = useState<Right[]>([]);
  const pair = useMutation({
    mutationFn: () =>
      write(call('post', '/api/v1/pairings', { body: { helper, rights, address: window.location.origin } }), {
        ...ABOUT,
        words: [`A code for ${helper}`],
      }),
    onSuccess: () => {
      setHelper('');
      setRights([]);
    },
  });
  const end = useMutation({
    mutationFn: (device: Schemas['DeviceView']) =>
      write(
        call('post', '/api/v1/devices/{device_id}/ended', { params: { path: { device_id: device.id } } }),
        {
          ...ABOUT,
          words: [`${device.name} is signed out`],
        },
      ),
    onSuccess: (_, device) => {
      void queries.invalidateQueries({ queryKey: devicesQuery.queryKey });
      toast.success(`${device.name} is signed out.`);
    },
    onError: showProblem,
  });
  return (
    <section aria-label="Phones and tablets" className="mt-8 max-w-3xl">
      <h2 className="text-xl">Phones and tablets</h2>
      <p className="text-sm text-muted">
        Who helps needs no account: a code signs their device in, once, with the rights you give it here and
        no other. None of them shows what is noted of a client’s health, or what their targets were before.
        What a device has opened it can show without a network until somebody signs out on it: sign out on a
        device that others use.
      </p>
      <form
        className="mt-3 flex flex-wrap items-end gap-x-4 gap-y-2"
        onSubmit={(event) => {
          event.preventDefault();
          pair.mutate();
        }}
      >
        <div className="w-64">
          <Field label="Who helps" value={helper} onChange={(event) => setHelper(event.target.value)} />
        </div>
        <fieldset>
          <legend className="sr-only">What this device may do</legend>
          {RIGHTS.map(({ right, may }) => (
            <Tick
              key={right}
              label={may}
              checked={rights.includes(right)}
              onChange={(checked) =>
                setRights((now) => (checked ? [...now, right] : now.filter((other) => other !== right)))
              }
            />
          ))}
        </fieldset>
        <Button type="submit" disabled={!helper.trim() || rights.length === 0 || pair.isPending}>
          Show a code
        </Button>
      </form>
      {pair.isError ? (
        <div className="mt-2">
          <ProblemNotice problem={toProblem(pair.error)} />
        </div>
      ) : null}
      {pair.data ? <Code pairing={pair.data} /> : null}
      {devices.isError ? (
        <LoadFailed error={devices.error} retry={() => void devices.refetch()} />
      ) : (
        <ul aria-label="Signed in" className="mt-4 divide-y divide-steel border-y border-steel">
          {(devices.data ?? []).map((device) => (
            <li key={device.id} className="flex min-h-12 items-center justify-between gap-3 py-1">
              <span>
                <span className="font-semibold">{device.name}</span>
                {RIGHTS.filter(({ right }) => device.rights?.includes(right)).map(({ does }) => `, ${does}`)}
                {device.device ? `, ${device.device}` : ''}
                <span className="block text-sm text-muted">
                  {device.is_own
                    ? 'this browser'
                    : device.seen_at
                      ? `seen on ${moment(device.seen_at)}`
                      : `signed in on ${moment(device.made_at)}`}
                </span>
              </span>
              {device.is_own ? null : (
                <Button
                  disabled={end.isPending}
                  aria-label={`Sign ${device.name} out`}
                  onClick={() => end.mutate(device)}
                >
                  Sign out
                </Button>
              )}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function Code({ pairing }: { pairing: Schemas['PairingView'] }) {
  return (
    <div className="mt-3 flex flex-wrap items-center gap-5 rounded-xl border border-steel bg-sheet p-4">
      <img
        alt={`Code to scan for ${pairing.helper}`}
        className="size-44"
        src={`data:image/svg+xml,${encodeURIComponent(pairing.picture)}`}
      />
      <div>
        <p className="figures text-3xl font-bold">{pairing.code}</p>
        <p className="mt-1">
          {pairing.helper} scans it, or types it at <span className="figures">{pairing.address}</span>.
        </p>
        {pairing.is_out_of_reach ? (
          <p className="font-medium text-alert">
            No phone reaches this address: it is this computer’s own. End Yantai and start it with{' '}
            <span className="figures">./yantai start --lan</span>, then show a new code.
          </p>
        ) : null}
        <p className="text-sm text-muted">It works once, until {moment(pairing.expires_at)}.</p>
      </div>
    </div>
  );
}
