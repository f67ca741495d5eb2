import type { ReactNode } from 'react';
import { type Problem, toProblem } from '~/api/client';
import { Button } from '~/parts/button';

type Tone = 'alert' | 'caution' | 'plain';

const TONES: Record<Tone, string> = {
  alert: 'border-l-alert',
  caution: 'border-l-ochre',
  plain: 'border-l-edge',
};

/** A box with something to know, and what can be done about it. */
export function Notice({
  tone = 'plain',
  title,
  children,
}: {
  tone?: Tone;
  title?: string;
  children: ReactNode;
}) {
  return (
    <section
      {...(tone === 'alert' ? { role: 'alert' } : {})}
      className={`rounded-lg border border-l-4 border-steel bg-sheet p-3.5 ${TONES[tone]}`}
    >
      {title ? <h2 className="mb-1 text-base">{title}</h2> : null}
      <div className="text-sm text-ink">{children}</div>
    </section>
  );
}

/** What the server refused. Field errors stand at their fields; `placed` are those that do. */
export function ProblemNotice({ problem, placed = [] }: { problem: Problem; placed?: string[] }) {
  const elsewhere = problem.errors?.filter((one) => !placed.includes(one.pointer)) ?? [];
  return (
    <Notice tone="alert" title={problem.title}>
      {elsewhere.length ? (
        <ul className="list-disc pl-5">
          {elsewhere.map((one) => (
            <li key={one.pointer + one.message}>{one.message}</li>
          ))}
        </ul>
      ) : (
        <p>
          {problem.errors?.length ? 'Look at the marked fields; nothing you typed is lost.' : problem.detail}
        </p>
      )}
    </Notice>
  );
}

/** A view that could not be loaded. */
export function LoadFailed({ error, retry }: { error: unknown; retry?: () => void }) {
  const problem = toProblem(error);
  return (
    <div className="mx-auto max-w-xl p-8">
      <Notice tone="alert" title={problem.title}>
        <p className="mb-3">{problem.detail}</p>
        {retry ? <Button onClick={retry}>Try again</Button> : null}
      </Notice>
    </div>
  );
}

export function Loading({ what }: { what: string }) {
  return (
    <p role="status" className="min-h-96 p-8 text-muted">
      Loading {what} …
    </p>
  );
}

export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="rounded-xl border border-dashed border-edge px-6 py-12 text-center">
      <h2 className="mb-2 text-xl">{title}</h2>
      <div className="mx-auto max-w-prose text-muted">{children}</div>
    </section>
  );
}
