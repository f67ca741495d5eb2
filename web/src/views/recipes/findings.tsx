import { useState } from 'react';
import type { Schemas } from '~/api/client';
import { Button } from '~/parts/button';
import { Field } from '~/parts/field';

type Finding = Schemas['FindingView'];

/** What looks wrong, with mends to accept or a reason to put it aside. What is put aside stays on record. */
export function Findings({
  findings,
  onMend,
  onDismiss,
}: {
  findings: Finding[];
  onMend: (mend: Schemas['MendView']) => void;
  onDismiss: (code: string, reason: string | null) => void;
}) {
  if (findings.length === 0) return null;
  return (
    <ul className="space-y-2">
      {findings.map((finding) => (
        <Entry key={finding.code} finding={finding} onMend={onMend} onDismiss={onDismiss} />
      ))}
    </ul>
  );
}

function Entry({
  finding,
  onMend,
  onDismiss,
}: {
  finding: Finding;
  onMend: (mend: Schemas['MendView']) => void;
  onDismiss: (code: string, reason: string | null) => void;
}) {
  const [reason, setReason] = useState<string | null>(null);
  if (finding.dismissed !== null) {
    return (
      <li className="text-sm text-muted">
        Put aside: {finding.words} <em>“{finding.dismissed}”</em>{' '}
        <button type="button" className="min-h-6 underline" onClick={() => onDismiss(finding.code, null)}>
          Look at it again
        </button>
      </li>
    );
  }
  return (
    <li
      data-finding={finding.code}
      className={`rounded-lg border-l-4 bg-bench px-3 py-2 text-sm ${finding.assumption ? 'border-l-edge' : 'border-l-alert'}`}
    >
      <p>
        <strong>{finding.assumption ? 'Assumed: ' : 'Look here: '}</strong>
        {finding.words}
      </p>
      {reason === null ? (
        <p className="mt-1 flex flex-wrap gap-2">
          {finding.mends.map((mend) => (
            <Button key={mend.words} className="!min-h-9 !px-3" onClick={() => onMend(mend)}>
              {mend.words}
            </Button>
          ))}
          <Button look="quiet" className="!min-h-9 !px-3" onClick={() => setReason('')}>
            It is right
          </Button>
        </p>
      ) : (
        <div className="mt-1 flex flex-wrap items-end gap-2">
          <div className="min-w-60 flex-1">
            <Field
              label="Why it is right"
              autoFocus
              value={reason}
              placeholder="dry pan, checked the label"
              onChange={(event) => setReason(event.target.value)}
              onKeyDown={(event) => {
                if (event.key === 'Enter') {
                  event.preventDefault();
                  if (reason.trim()) onDismiss(finding.code, reason.trim());
                }
                if (event.key === 'Escape') setReason(null);
              }}
            />
          </div>
          <Button disabled={!reason.trim()} onClick={() => onDismiss(finding.code, reason.trim())}>
            Put aside
          </Button>
          <Button look="quiet" onClick={() => setReason(null)}>
            Back
          </Button>
        </div>
      )}
    </li>
  );
}
