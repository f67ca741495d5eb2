import type { FormEvent, ReactNode } from 'react';
import type { Problem } from '~/api/client';
import { Button } from '~/parts/button';
import { Refused } from '~/parts/form-fields';
import { ProblemNotice } from '~/parts/notice';
import { Page } from '~/parts/page';

type RecordForm = {
  draft: { name: string };
  dirty: boolean;
  problem: Problem | null;
  unreadable: boolean;
  saving: boolean;
  waits: boolean;
  canUndo: boolean;
  undo: () => void;
  submit: (event: FormEvent) => void;
  archive: () => void;
};

/** The page of one record: its form with what can be done, and what was refused of it. */
export function RecordPage({
  form,
  what,
  isNew,
  detail = '',
  actions,
  isPlaced = () => true,
  children,
}: {
  form: RecordForm;
  /** One of them, as "client". */
  what: string;
  isNew: boolean;
  /** What is told beside the name of one that is saved. */
  detail?: string;
  /** What can be done besides, and with one that is stored. */
  actions?: ReactNode;
  /** Whether a refusal of this is shown at a field. */
  isPlaced?: (pointer: string) => boolean;
  children: ReactNode;
}) {
  const { draft, dirty, problem, unreadable, saving, waits, canUndo, undo, submit, archive } = form;
  return (
    <Refused value={problem}>
      <form onSubmit={submit} noValidate>
        <Page
          title={draft.name || `New ${what}`}
          detail={waits ? 'kept in this browser until the server answers' : dirty ? 'not saved yet' : detail}
          actions={
            <>
              {actions}
              {canUndo ? <Button onClick={undo}>Undo</Button> : null}
              {isNew ? null : <Button onClick={archive}>Archive</Button>}
              <Button type="submit" look="main" disabled={saving || unreadable}>
                {waits ? 'Waits for the server …' : saving ? 'Saving …' : `Save ${what}`}
              </Button>
            </>
          }
        >
          {problem ? (
            <div className="mb-4">
              <ProblemNotice
                problem={problem}
                placed={problem.errors?.map((one) => one.pointer).filter(isPlaced) ?? []}
              />
            </div>
          ) : null}
          {children}
        </Page>
      </form>
    </Refused>
  );
}
