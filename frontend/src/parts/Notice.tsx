import { createContext, type ReactNode, useCallback, useContext, useState } from "react";
import { Problem } from "../api/client";

/** What a user should know and that is no error. */
export class Notable extends Error {
  readonly title: string;
  constructor(title: string, detail: string) {
    super(detail);
    this.title = title;
  }
}

interface Shown {
  id: number;
  title: string;
  detail: string;
}

const Context = createContext<(error: unknown) => void>(() => undefined);

/** Gives the function that tells the user what went wrong. */
export const useNotice = () => useContext(Context);

export function Notices({ children }: { children: ReactNode }) {
  const [shown, setShown] = useState<Shown[]>([]);
  const tell = useCallback((error: unknown) => {
    const title =
      error instanceof Problem || error instanceof Notable ? error.title : "Something went wrong";
    const detail = error instanceof Error ? error.message : String(error);
    setShown((now) =>
      now.some((n) => n.detail === detail)
        ? now
        : [...now.slice(-2), { id: Date.now(), title, detail }],
    );
  }, []);
  return (
    <Context.Provider value={tell}>
      {children}
      <div role="alert" className="fixed right-4 bottom-4 z-50 flex w-96 flex-col gap-2">
        {shown.map((notice) => (
          <div
            key={notice.id}
            className="rounded border-l-2 border-loss bg-raise px-4 py-3 shadow-[0_6px_24px_#000a]"
          >
            <div className="flex justify-between gap-4">
              <b className="font-semibold">{notice.title}</b>
              <button
                type="button"
                className="text-note text-soft hover:text-ink"
                onClick={() => setShown((now) => now.filter((n) => n.id !== notice.id))}
              >
                Close
              </button>
            </div>
            <p className="mt-1 text-note break-words text-soft">{notice.detail}</p>
          </div>
        ))}
      </div>
    </Context.Provider>
  );
}
