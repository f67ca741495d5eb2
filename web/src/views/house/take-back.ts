import { toast } from 'sonner';
import { call, write } from '~/offline/writes';
import { showProblem } from '~/parts/show-problem';
import { keepHouse } from '~/views/house/queries';

/** Take back what was noted in one go. */
export const takeBack = (act: string) =>
  write(call('post', '/api/v1/house/acts/{act_id}/undone', { params: { path: { act_id: act } } }), {
    about: 'house',
    words: ['What was noted of the house is taken back'],
    href: '/house',
  }).then(({ house }) => {
    keepHouse(house);
    toast.success('Taken back.');
  }, showProblem);
