import { exactWeight, plural, slotName } from '~/lib/format';
import type { Change, Plan } from '~/views/batch/frame/use-plan';

/** A change in a few words, to say what is not saved. */
export function changeWords(plan: Plan, change: Change): string {
  const component =
    'component_id' in change
      ? plan.components.find((one) => one.id === change.component_id)?.name
      : undefined;
  const row = 'row_id' in change ? plan.rows.find((one) => one.id === change.row_id) : undefined;
  const whose = row ? `${row.client}, ${slotName(row.slot, row.day_type)}` : '';
  const of = [whose, component].filter(Boolean).join(', ');
  return [of, what(change)].filter(Boolean).join(': ');
}

const amount = (value: number | string) => (typeof value === 'number' ? exactWeight(value) : value);

function what(change: Change): string {
  switch (change.kind) {
    case 'pin':
      return change.grams === null || change.grams === undefined ? 'pin taken off' : amount(change.grams);
    case 'containers':
      return plural(Number(change.count), 'container');
    case 'target':
      return 'target';
    case 'weigh':
      return change.vessels
        .map((one) => `${amount(one.gross_g)}${one.vessel_g ? ` less ${amount(one.vessel_g)}` : ''}`)
        .join(' and ');
    case 'withdraw':
      return 'weight taken back';
    case 'bounds':
      return 'least and most';
    case 'raw':
    case 'packs':
      return 'raw amounts';
    case 'poured':
      return `${amount(change.poured_fat_g)} of fat poured off`;
    case 'school':
      return 'how it goes into the containers';
    case 'add-line':
      return `${amount(change.purchased_g)} added at the stove`;
    case 'remove-line':
    case 'line':
    case 'component':
      return 'ingredients';
    case 'extra':
      return `${amount(change.grams)} beside the components`;
    case 'remove-extra':
      return 'extra taken off';
    case 'move':
    case 'take':
      return 'containers of another batch';
    case 'batch':
      return `the batch, ${change.name}`;
    case 'packed':
      return change.packed ? 'marked as packed' : 'opened again';
  }
}
