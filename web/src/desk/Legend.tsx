import { Dialog } from "radix-ui";
import { LEGEND } from "./keys";

export function Legend({ open, setOpen }: { open: boolean; setOpen: (open: boolean) => void }) {
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-night/70" />
        <Dialog.Content aria-describedby={undefined} className="paper fixed top-1/2 left-1/2 max-h-[92vh] w-[min(980px,94vw)] -translate-x-1/2 -translate-y-1/2 overflow-y-auto border-t-4 border-amber bg-paper p-7">
          <Dialog.Title className="mb-4 text-2xl font-semibold">All keys</Dialog.Title>
          <div className="grid gap-x-10 gap-y-5 sm:grid-cols-2">
            {LEGEND.map(({ title, rows }) => (
              <section key={title}>
                <h3 className="mb-1 border-b-2 border-rule pb-1 font-semibold">{title}</h3>
                <dl className="grid grid-cols-[96px_1fr] gap-y-0.5">
                  {rows.map(([keys, words]) => (
                    <div key={keys} className="contents">
                      <dt className="font-mono text-[15px] font-semibold">{keys}</dt>
                      <dd>{words}</dd>
                    </div>
                  ))}
                </dl>
              </section>
            ))}
          </div>
          <Dialog.Close className="act mt-5">Back to the desk</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
