import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import type { ReactNode } from "react";

/** A panel over the screen, which waits behind it. Escape, or a tap beside it, closes it. */
export function DialogFrame({
  title,
  close,
  open = true,
  wide = "max-w-md",
  above = false,
  children,
}: {
  title: string;
  close: () => void;
  open?: boolean;
  /** Its greatest width, as a class. */
  wide?: "max-w-md" | "max-w-xl" | "max-w-2xl" | "max-w-3xl";
  /** It may open while another dialog is open, and stands before it. */
  above?: boolean;
  children: ReactNode;
}) {
  return (
    <Dialog
      open={open}
      onClose={close}
      className={`relative print:hidden ${above ? "z-50" : "z-40"}`}
    >
      <div className="fixed inset-0 bg-black/40" aria-hidden />
      <div className="fixed inset-0 grid place-items-center p-4">
        <DialogPanel
          className={`flex max-h-full w-full flex-col overflow-y-auto rounded-sm border-2 border-enamel bg-paper p-6 text-ink ${wide}`}
        >
          <DialogTitle className="text-xl font-bold">{title}</DialogTitle>
          {children}
        </DialogPanel>
      </div>
    </Dialog>
  );
}
