import { useMutation } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { type Problem, toProblem } from '~/api/client';
import { faultFinder } from '~/lib/faults';
import { Button } from '~/parts/button';
import { Close, Overlaid } from '~/parts/dialog';
import { showProblem } from '~/parts/show-problem';

const NONE = new Map<string, string>();

/** Saving what a dialog holds: a refusal stands at its field, or is told where no field shows it. */
export function useSaving<Body>(save: (body: Body) => Promise<unknown>, onSaved: () => void) {
  const [problem, setProblem] = useState<Problem | null>(null);
  const saving = useMutation({
    mutationFn: save,
    onSuccess: onSaved,
    onError: (error) => {
      const told = toProblem(error);
      setProblem(told);
      if (!told.errors?.length) showProblem(error);
    },
  });
  return { save: saving.mutate, isSaving: saving.isPending, fault: faultFinder(NONE, problem) };
}

/** A form of two columns in a dialog, with its buttons. */
export function FormDialog({
  title,
  isSaving,
  onSubmit,
  onClose,
  children,
}: {
  title: string;
  isSaving: boolean;
  onSubmit: () => void;
  onClose: () => void;
  children: ReactNode;
}) {
  return (
    <Overlaid open onOpenChange={onClose} wide title={title}>
      <form
        noValidate
        className="grid grid-cols-2 gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          onSubmit();
        }}
      >
        {children}
        <div className="col-span-2 flex justify-end gap-3">
          <Close>
            <Button>Cancel</Button>
          </Close>
          <Button type="submit" look="main" disabled={isSaving}>
            Save
          </Button>
        </div>
      </form>
    </Overlaid>
  );
}
