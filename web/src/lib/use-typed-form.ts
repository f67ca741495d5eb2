import { useLayoutEffect, useRef } from 'react';
import {
  type Control,
  type DefaultValues,
  type FieldErrors,
  type FieldPath,
  type FieldPathValue,
  type FieldValues,
  type Resolver,
  set,
  useForm,
  useWatch,
} from 'react-hook-form';
import type { Read } from '~/lib/codecs';

/** What the fields of a form stand on. */
export type Form<Draft extends FieldValues> = {
  control: Control<Draft>;
  /** Change what stands under a name, from what it is by then. */
  change: <Name extends FieldPath<Draft>>(
    name: Name,
    next: (now: FieldPathValue<Draft, Name>) => FieldPathValue<Draft, Name>,
  ) => void;
};

type Options<Draft> = {
  initial: Draft;
  toInput: (draft: Draft) => Read<unknown>;
  /** Called with the form before and after a change of a part of it. */
  onStep?: (before: Draft) => void;
};

/** What the codecs of a form cannot read, as the form's own errors. */
function resolverOf<Draft extends FieldValues>(toInput: Options<Draft>['toInput']): Resolver<Draft> {
  return (draft) => {
    const errors: FieldErrors<Draft> = {};
    for (const [pointer, message] of toInput(draft).faults)
      set(errors, pointer.slice(1).replaceAll('/', '.'), { type: 'codec', message });
    return Object.keys(errors).length === 0 ? { values: draft, errors: {} } : { values: {}, errors };
  };
}

/** A form of text that codecs read. It is read as a whole after each change: what can be read hangs together. */
export function useTypedForm<Draft extends FieldValues>({ initial, toInput, onStep }: Options<Draft>) {
  const form = useForm<Draft>({
    defaultValues: initial as DefaultValues<Draft>,
    resolver: resolverOf(toInput),
    mode: 'onSubmit',
    reValidateMode: 'onSubmit',
  });
  const { control, getValues, setValue, subscribe, trigger } = form;
  const { isDirty, errors } = form.formState;
  const draft = useWatch({ control }) as Draft;
  const last = useRef(initial);
  const listener = useRef(onStep);
  listener.current = onStep;
  useLayoutEffect(
    () =>
      subscribe({
        formState: { values: true },
        callback: ({ name, values }) => {
          // Without a name the whole form was put in place, which is no step of its own.
          if (name !== undefined) listener.current?.(last.current);
          last.current = values as Draft;
          void trigger();
        },
      }),
    [subscribe, trigger],
  );
  const change: Form<Draft>['change'] = (name, next) =>
    setValue(name, next(getValues(name)), { shouldDirty: true });
  return {
    ...form,
    change,
    /** The form as it is typed. */
    draft,
    isDirty,
    /** Something cannot be read yet; the fields say what. */
    isUnreadable: Object.keys(errors).length > 0,
  };
}
