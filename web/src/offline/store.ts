import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import type { Entry } from '~/offline/outbox';

/** Where the outbox keeps what waits, so that it outlives the page. */
export type Store = {
  /** False where the browser keeps nothing: what waits lives in the page alone. */
  readonly durable: boolean;
  read(): Promise<Entry[]>;
  put(entry: Entry): Promise<void>;
  remove(id: string): Promise<void>;
};

interface Schema extends DBSchema {
  entries: { key: string; value: Entry };
}

/** A database of the browser. Where it has none, or refuses, what waits is kept in the page. */
export async function openStore(name = 'yantai'): Promise<Store> {
  try {
    return inDatabase(
      await openDB<Schema>(name, 1, {
        upgrade: (database) => {
          database.createObjectStore('entries', { keyPath: 'id' });
        },
      }),
    );
  } catch {
    return NOWHERE;
  }
}

const inDatabase = (database: IDBPDatabase<Schema>): Store => ({
  durable: true,
  read: () => database.getAll('entries'),
  put: async (entry) => {
    await database.put('entries', entry);
  },
  remove: (id) => database.delete('entries', id),
});

const NOWHERE: Store = {
  durable: false,
  read: async () => [],
  put: async () => undefined,
  remove: async () => undefined,
};
