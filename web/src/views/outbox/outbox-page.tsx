import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { useState } from 'react';
import type { Schemas } from '~/api/client';
import { moment, plural } from '~/lib/format';
import { call, write } from '~/offline/writes';
import { Button, buttonClass } from '~/parts/button';
import { Empty, LoadFailed, Loading, Notice } from '~/parts/notice';
import { Page } from '~/parts/page';
import { showProblem } from '~/parts/show-problem';
import { KINDS, outboxQuery } from '~/views/outbox/queries';
import { TemplatesDialog } from '~/views/outbox/templates-dialog';
import { WriteDialog } from '~/views/outbox/write-dialog';

type Message = Schemas['MessageView'];

/** Messages to clients: what waits, what has gone, what could not go and why. */
export function OutboxPage() {
  const wanted = useSearch({ from: '/inside/outbox' });
  const navigate = useNavigate();
  const outbox = useQuery(outboxQuery);
  const [isWriting, setWriting] = useState(wanted.kind !== undefined);
  const [isMending, setMending] = useState(false);
  if (outbox.isError) return <LoadFailed error={outbox.error} retry={() => void outbox.refetch()} />;
  if (!outbox.data) return <Loading what="the outbox" />;
  const { messages, can_send, is_simulated } = outbox.data;
  const waiting = messages.filter((one) => one.state === 'waiting' || one.state === 'sending').length;
  return (
    <Page
      title="Outbox"
      detail={waiting ? `${plural(waiting, 'message')} on the way` : 'nothing on the way'}
      actions={
        <>
          {is_simulated ? (
            <Link to="/post-office" className={buttonClass()}>
              Post office
            </Link>
          ) : null}
          <Button onClick={() => setMending(true)}>Templates</Button>
          <Button look="main" onClick={() => setWriting(true)}>
            Write
          </Button>
        </>
      }
    >
      <div className="mb-3 empty:hidden">
        {can_send ? (
          is_simulated ? (
            <Notice>
              No mail server is set: a simulated post office takes what is sent, and delivers nothing. A real
              one is set by YANTAI_MAIL_URL.
            </Notice>
          ) : null
        ) : (
          <Notice tone="caution" title="No mail server is set">
            Messages wait here. Set YANTAI_MAIL_URL, and start Yantai again.
          </Notice>
        )}
      </div>
      {messages.length ? (
        <ul className="divide-y divide-steel rounded-xl border border-steel bg-sheet" aria-label="Messages">
          {messages.map((one) => (
            <Row key={one.id} message={one} />
          ))}
        </ul>
      ) : (
        <Empty title="Nothing was sent yet">
          <p>Tell clients that their containers are ready, what to thaw tonight, or send a form.</p>
        </Empty>
      )}
      {isWriting ? (
        <WriteDialog
          wanted={wanted}
          onClose={() => {
            setWriting(false);
            void navigate({ to: '/outbox', search: {}, replace: true });
          }}
        />
      ) : null}
      {isMending ? <TemplatesDialog onClose={() => setMending(false)} /> : null}
    </Page>
  );
}

function Row({ message }: { message: Message }) {
  const queries = useQueryClient();
  const told = { about: `message ${message.id}`, href: '/outbox' };
  const path = { params: { path: { message_id: message.id } } };
  const renew = () => queries.invalidateQueries({ queryKey: outboxQuery.queryKey });
  const again = useMutation({
    mutationFn: () =>
      write(call('post', '/api/v1/outbox/{message_id}/again', path), { ...told, words: ['A message again'] }),
    onSuccess: renew,
    onError: showProblem,
  });
  const aside = useMutation({
    mutationFn: () =>
      write(call('post', '/api/v1/outbox/{message_id}/set-aside', path), {
        ...told,
        words: ['A message set aside'],
      }),
    onSuccess: renew,
    onError: showProblem,
  });
  const { state } = message;
  const stays = state === 'refused' || state === 'unsure' || state === 'waiting';
  const isStuck = stays && message.trouble !== '';
  return (
    <li className="px-4 py-2.5">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <span>
          <b>{message.to_name}</b>, {KINDS[message.kind].toLowerCase()}
          <span className={`block text-sm ${isStuck ? 'font-medium text-alert' : 'text-muted'}`}>
            {standing(message)}
          </span>
        </span>
        <span className="flex gap-3">
          {stays ? (
            <Button
              disabled={aside.isPending}
              aria-label={`Set aside the message to ${message.to_name}`}
              onClick={() => aside.mutate()}
            >
              Set aside
            </Button>
          ) : null}
          {isStuck || state === 'set aside' ? (
            <Button
              look={isStuck ? 'main' : 'plain'}
              disabled={again.isPending}
              aria-label={`Send the message to ${message.to_name} ${state === 'waiting' ? 'now' : 'again'}`}
              onClick={() => again.mutate()}
            >
              {state === 'waiting' ? 'Try now' : 'Send again'}
            </Button>
          ) : null}
        </span>
      </div>
      <details className="mt-1 text-sm">
        <summary className="min-h-8 text-muted">{message.subject}</summary>
        <p className="mb-2 max-w-prose whitespace-pre-wrap">{message.body}</p>
      </details>
    </li>
  );
}

function standing(message: Message): string {
  const to = `To ${message.to_address}`;
  switch (message.state) {
    case 'sent':
      return `${to}, sent ${moment(message.sent_at ?? message.made_at)}.`;
    case 'sending':
      return `${to}, being sent.`;
    case 'set aside':
      return `${to}, set aside; it does not go.`;
    case 'unsure':
      return `${to}: ${message.trouble} Ask them before you send it again.`;
    case 'refused':
      return `${to}, did not go: ${message.trouble}`;
    case 'waiting':
      return message.trouble
        ? `${to}, tried ${plural(message.attempts, 'time')}: ${message.trouble} It is tried again by itself.`
        : `${to}, on its way.`;
  }
}
