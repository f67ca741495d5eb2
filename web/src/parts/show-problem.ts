import { toast } from 'sonner';
import { toProblem } from '~/api/client';

/** A refusal that no field and no place on the page shows, in words. */
export const showProblem = (error: unknown) => {
  toast.error(toProblem(error).detail);
};
