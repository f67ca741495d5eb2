import { queryOptions } from '@tanstack/react-query';
import { api, ask, type Schemas } from '~/api/client';

export type MessageKind = Schemas['MessageView']['kind'];

export const outboxQuery = queryOptions({
  queryKey: ['outbox'],
  queryFn: () => ask(api.GET('/api/v1/outbox')),
  // What waits goes by itself, seen here without a key.
  refetchInterval: ({ state }) =>
    state.data?.messages.some((one) => one.state === 'waiting' || one.state === 'sending') ? 3000 : false,
});

export const templatesQuery = queryOptions({
  queryKey: ['message templates'],
  queryFn: () => ask(api.GET('/api/v1/message-templates')),
});

export const postOfficeQuery = queryOptions({
  queryKey: ['post office'],
  queryFn: () => ask(api.GET('/api/v1/post-office')),
});

export const draftsQuery = (wanted: Schemas['DraftsInput']) =>
  queryOptions({
    queryKey: ['message drafts', wanted],
    queryFn: () => ask(api.POST('/api/v1/outbox/drafts', { body: wanted })),
    // They are mended here: one that is read anew would be another text under the hand.
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
  });

export const KINDS: Record<MessageKind, string> = {
  'hand-over': 'Containers are ready',
  'thaw tonight': 'Thaw tonight',
  form: 'A form',
  'how was it': 'How was it',
};
