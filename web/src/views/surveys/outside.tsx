import { exactNumber } from '~/lib/format';

/** How far outside its bands a container lies, all its figures together; `missed` is the weighted miss. */
export function Outside({ missed, short = false }: { missed: number; short?: boolean }) {
  const by = Math.sqrt(missed);
  if (by < 0.1) return <span className="text-alert">just outside</span>;
  const times = <span className="figures font-semibold">{exactNumber(by)} ×</span>;
  return (
    <span className="text-alert">{short ? <>by {times}</> : <>outside by {times} the tolerance</>}</span>
  );
}
