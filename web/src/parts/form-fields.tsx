import { type ComponentProps, createContext, type ReactNode, use } from 'react';
import {
  type Control,
  type FieldPath,
  type FieldPathByValue,
  type FieldValues,
  useController,
} from 'react-hook-form';
import type { Problem } from '~/api/client';
import { Choice, Toggles } from '~/parts/choice';
import { Area, Field, Tick } from '~/parts/field';
import { WeightField } from '~/parts/weight-field';

/** What the server refused of the form around it: each field finds its own by JSON pointer. */
export const Refused = createContext<Problem | null>(null);

type Of<Draft extends FieldValues, Name = FieldPath<Draft>> = { control: Control<Draft>; name: Name };
type Alias = {
  /** What the server calls it too, where it does not refuse it under its own name. */
  alias?: string;
};
type Options<V> = { options: readonly { value: V; label: string }[] };

/** One value of a form with what is wrong with it: what cannot be read, or what the server refused. */
export function useFormField<Draft extends FieldValues, Name extends FieldPath<Draft>>({
  control,
  name,
  alias,
}: Of<Draft, Name> & Alias) {
  const { field, fieldState } = useController({ control, name });
  const problem = use(Refused);
  const parts = name.split('.');
  const pointers = [parts, [...parts.slice(0, -1), alias]].map((path) => `/${path.join('/')}`);
  const refused = problem?.errors?.find((one) => pointers.includes(one.pointer))?.message;
  return { field, fault: fieldState.error?.message ?? refused };
}

/** A line of text, or a figure that its codec reads. */
export function TextField<Draft extends FieldValues>({
  control,
  name,
  alias,
  ...rest
}: Of<Draft> & Alias & Omit<ComponentProps<typeof Field>, 'name' | 'value' | 'onChange' | 'fault'>) {
  const { field, fault } = useFormField(alias === undefined ? { control, name } : { control, name, alias });
  return (
    <Field
      {...rest}
      ref={field.ref}
      value={field.value}
      onChange={field.onChange}
      onBlur={field.onBlur}
      fault={fault}
    />
  );
}

/** Some lines of text. */
export function NoteField<Draft extends FieldValues>({
  control,
  name,
  ...rest
}: Of<Draft> & Omit<ComponentProps<typeof Area>, 'name' | 'value' | 'onChange' | 'fault'>) {
  const { field, fault } = useFormField({ control, name });
  return (
    <Area
      {...rest}
      ref={field.ref}
      value={field.value}
      onChange={field.onChange}
      onBlur={field.onBlur}
      fault={fault}
    />
  );
}

/** A weight in the person's unit, which may be typed as a sum. */
export function GramsField<Draft extends FieldValues>({
  control,
  name,
  alias,
  ...rest
}: Of<Draft> & Alias & Omit<ComponentProps<typeof WeightField>, 'name' | 'value' | 'onText' | 'fault'>) {
  const { field, fault } = useFormField(alias === undefined ? { control, name } : { control, name, alias });
  return (
    <WeightField {...rest} value={field.value} onText={field.onChange} onBlur={field.onBlur} fault={fault} />
  );
}

/** One of several, from a list that opens. */
export function ChoiceField<Draft extends FieldValues, V extends string>({
  control,
  name,
  ...rest
}: Of<Draft> & Options<V> & { label: string; hint?: ReactNode }) {
  const { field, fault } = useFormField({ control, name });
  return <Choice {...rest} value={field.value} onValue={field.onChange} fault={fault} />;
}

/** One of two or three, all in view. */
export function TogglesField<Draft extends FieldValues, V extends string>({
  control,
  name,
  ...rest
}: Of<Draft> & Options<V> & { label: string }) {
  const { field } = useFormField({ control, name });
  return <Toggles {...rest} value={field.value} onValue={field.onChange} />;
}

/** A box to tick. */
export function TickField<Draft extends FieldValues>({
  control,
  name,
  label,
}: Of<Draft, FieldPathByValue<Draft, boolean>> & { label: string }) {
  const { field } = useController({ control, name });
  return <Tick label={label} checked={field.value} onChange={field.onChange} />;
}

/** Boxes to tick, of which a list holds those that are. */
export function TicksField<Draft extends FieldValues>({
  control,
  name,
  options,
}: Of<Draft, FieldPathByValue<Draft, string[]>> & Options<string>) {
  const { field } = useController({ control, name });
  const ticked: string[] = field.value;
  return options.map(({ value, label }) => (
    <Tick
      key={value}
      label={label}
      checked={ticked.includes(value)}
      onChange={(checked) =>
        field.onChange(checked ? [...ticked, value] : ticked.filter((one) => one !== value))
      }
    />
  ));
}
