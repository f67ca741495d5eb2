import { type ReactNode, useEffect } from 'react';

/** The frame of a view: its title, what can be done, its content. */
export function Page({
  title,
  detail,
  actions,
  children,
}: {
  title: string;
  detail?: ReactNode;
  actions?: ReactNode;
  children: ReactNode;
}) {
  useEffect(() => {
    document.title = `${title} – Yantai`;
  }, [title]);
  return (
    <main id="main" className="mx-auto w-full max-w-[1400px] px-5 py-4">
      <div className="mb-4 flex flex-wrap items-center justify-between gap-x-6 gap-y-2">
        <div className="flex min-w-0 flex-wrap items-baseline gap-x-4 gap-y-1">
          <h1 className="text-[26px]">{title}</h1>
          {detail ? <p className="text-muted">{detail}</p> : null}
        </div>
        <div className="print:hidden flex flex-wrap gap-3">{actions}</div>
      </div>
      {children}
    </main>
  );
}
