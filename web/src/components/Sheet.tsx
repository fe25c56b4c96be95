import { Dialog } from "radix-ui";
import type { KeyboardEvent, ReactNode } from "react";

const WIDTH = { narrow: "w-[min(560px,96vw)]", middle: "w-[min(760px,96vw)]", wide: "w-[min(1160px,96vw)]" };

/** A sheet of paper laid over a screen, with its title and the way back. */
export function Sheet({
  title,
  aside,
  width,
  back = "Back to the desk",
  open,
  setOpen,
  onKeyDown,
  children,
}: {
  title: string;
  aside?: ReactNode;
  width: keyof typeof WIDTH;
  /** The words on the button that closes it. */
  back?: string;
  open: boolean;
  setOpen: (open: boolean) => void;
  onKeyDown?: (event: KeyboardEvent) => void;
  children: ReactNode;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-night/70" />
        <Dialog.Content
          aria-describedby={undefined}
          {...(onKeyDown ? { onKeyDown } : {})}
          className={`paper fixed top-1/2 left-1/2 z-20 max-h-[94vh] ${WIDTH[width]} -translate-x-1/2 -translate-y-1/2 overflow-y-auto border-t-4 border-amber-deep bg-paper px-7 py-5 text-ink`}
        >
          <div className="flex flex-wrap items-baseline gap-5 pb-3">
            <Dialog.Title className="text-2xl font-semibold">{title}</Dialog.Title>
            {aside}
            <Dialog.Close className="act ml-auto">{back}</Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
