/** @jsxImportSource preact */
import { useEffect, useState } from 'preact/hooks';
import { askKitchen, askShares, type MyKitchen, type MyPan } from '~/client-link/link';

const ask: typeof fetch = (...given) => fetch(...given);

/** For who cooks alone: amounts, steps, and the grams for each container from what the pan weighs. */
export function Kitchen({ token }: { token: string }) {
  const [isOpen, setOpen] = useState(false);
  const [kitchen, setKitchen] = useState<MyKitchen | null>(null);
  const [trouble, setTrouble] = useState('');
  useEffect(() => {
    if (!isOpen || kitchen) return;
    askKitchen(ask, token).then(setKitchen, (error) =>
      setTrouble(error instanceof Error && error.name === 'Refused' ? error.message : NO_NETWORK),
    );
  }, [isOpen, kitchen, token]);
  return (
    <details class="mt-6 border-t border-steel" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary class="py-2">
        <b>I cook it myself</b>
      </summary>
      {kitchen ? (
        <>
          {kitchen.pans.map((pan) => (
            <Pan key={`${pan.batch_id} ${pan.component_id}`} pan={pan} token={token} />
          ))}
          {kitchen.cautions.map((words) => (
            <p key={words} class="mt-2 text-sm text-muted">
              {words}
            </p>
          ))}
        </>
      ) : (
        <p role="status">{trouble || 'Loading …'}</p>
      )}
    </details>
  );
}

const NO_NETWORK = 'There is no network. The kitchen sheet on paper has a table for it.';
/** So long nobody types on. */
const PAUSE_MS = 250;

function Pan({ pan, token }: { pan: MyPan; token: string }) {
  const [weighed, setWeighed] = useState('');
  const [told, setTold] = useState<{ grams: string[]; trouble: string }>({ grams: [], trouble: '' });
  const grams = Number(weighed.replace(',', '.'));
  const isWeight = weighed.trim() !== '' && Number.isFinite(grams) && grams >= 1;
  useEffect(() => {
    setTold({ grams: [], trouble: '' });
    if (!isWeight) return;
    let isStale = false;
    const timer = setTimeout(() => {
      askShares(ask, token, pan, grams).then(
        (found) => !isStale && setTold({ grams: found, trouble: '' }),
        (error) =>
          !isStale &&
          setTold({
            grams: [],
            trouble: error instanceof Error && error.name === 'Refused' ? error.message : NO_NETWORK,
          }),
      );
    }, PAUSE_MS);
    return () => {
      isStale = true;
      clearTimeout(timer);
    };
  }, [isWeight, grams, token, pan]);
  return (
    <section class="mt-3 rounded-xl border border-steel bg-sheet p-4" aria-label={pan.name}>
      <h2 class="text-xl">{pan.name}</h2>
      <ul class="mt-2">
        {pan.amounts.map((one) => (
          <li key={one.name} class="flex justify-between gap-4">
            <span>{one.name}</span>
            <b class="figures whitespace-nowrap">{one.amount}</b>
          </li>
        ))}
      </ul>
      <ol class="mt-2 list-decimal pl-5">
        {pan.steps.map((step) => (
          <li key={step}>{step}</li>
        ))}
      </ol>
      {pan.done ? <p class="mt-2 font-bold">{pan.done}</p> : null}
      {pan.is_weighed ? (
        <>
          <label class="mt-3 flex items-center gap-2">
            <span class="flex-1">
              Weigh the pan, without its vessel. <span class="text-muted">{pan.expected}</span>
            </span>
            <input
              class="figures min-h-12 w-28 rounded-lg border border-edge bg-sheet px-3 text-right"
              inputMode="decimal"
              aria-label={`What ${pan.name} weighs`}
              value={weighed}
              onInput={(event) => setWeighed(event.currentTarget.value)}
            />
            g
          </label>
          {weighed.trim() !== '' && !isWeight ? (
            <p class="mt-1 text-alert">Grams are a number, as 880.</p>
          ) : null}
          <ul role="status">
            {told.grams.map((words, at) => (
              <li key={pan.kinds[at]} class="mt-2 flex items-baseline justify-between gap-4">
                <span>{pan.kinds[at]}</span>
                <b class="figures text-3xl whitespace-nowrap">{words}</b>
              </li>
            ))}
            {told.trouble ? <li class="text-alert">{told.trouble}</li> : null}
          </ul>
        </>
      ) : (
        <p class="mt-2">{pan.division}</p>
      )}
    </section>
  );
}
