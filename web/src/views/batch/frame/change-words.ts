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
    case 'weigh-part':
      return `a part of it, ${amount(change.vessel.gross_g)}${change.vessel.vessel_g ? ` less ${amount(change.vessel.vessel_g)}` : ''}`;
    case 'weighed-parts':
      return 'the parts of it that were weighed';
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
    case 'steps':
      return 'steps';
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
    case 'place':
      return 'where it goes';
    case 'pot':
      return 'how it is cooked';
    case 'aside':
      return change.aside ? 'out of the day’s plan' : 'back in the day’s plan';
    case 'add-dish':
      return 'a dish added';
    case 'dish':
      return `the dish, ${change.name}`;
    case 'remove-dish':
      return change.removed ? 'a dish taken out' : 'a dish put back';
    case 'add-part':
      return 'a component added';
    case 'remove-part':
      return change.removed ? 'a component taken out' : 'a component put back';
    case 'add-row':
      return `${plural(Number(change.count), 'container')} added`;
    case 'remove-row':
      return change.removed ? 'containers taken out' : 'containers put back';
    case 'split-row':
      return `${plural(Number(change.count), 'container')} made a line of their own`;
    case 'merge-row':
      return 'lines put together';
    case 'choice':
    case 'spread':
      return 'choices';
    case 'share-pot':
    case 'use-pot':
      return 'cooked in one pot';
    case 'split-pot':
      return 'a pot of its own';
    case 'apart':
      return 'cooked apart';
    case 'put-rows':
      return 'containers in another dish';
    case 'put-away':
      return change.away ? 'put away' : 'back in the lists';
    case 'delete':
      return change.deleted ? 'deleted' : 'brought back';
  }
}
