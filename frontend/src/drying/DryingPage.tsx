import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "wouter";
import { api, deliveredUrl } from "../api/client";
import type { Delivery } from "../api/types";
import { summary } from "../deliver/outputs";
import { Button } from "../parts/Button";
import { Header } from "../parts/Header";
import { Question } from "../parts/Question";
import { Drying, DryingActions, made, useDrying } from "./Drying";
import { left, useLine } from "./line";

/** The line itself, over each row of what hangs on it. */
const ROPE = "linear-gradient(transparent 7px, #4d4d4d 7px 8px, transparent 8px)";

/** What was delivered, hung up to dry, and what is being made. */
export function DryingPage() {
  const act = useDrying();
  const line = useLine();
  const now = useQuery({ queryKey: ["dried"], queryFn: api.dryingLine });
  const oldest = now.data?.finished.at(-1)?.id;
  const more = useInfiniteQuery({
    queryKey: ["dried", "before", oldest],
    queryFn: ({ pageParam }) => api.driedBefore(pageParam),
    initialPageParam: oldest ?? 0,
    getNextPageParam: (last) => last.finished.at(-1)?.id,
    enabled: false,
  });
  const [asking, setAsking] = useState<"clear" | "cancel" | null>(null);
  const open = now.data?.open ?? [];
  const finished = [
    ...(now.data?.finished ?? []),
    ...(more.data?.pages ?? []).flatMap((page) => page.finished),
  ];
  const going = open.filter(({ state }) => state !== "failed");
  return (
    <div className="flex h-full flex-col">
      <Header
        actions={
          <>
            <Button disabled={open.length === 0} onClick={() => setAsking("cancel")}>
              Cancel all
            </Button>
            <Button disabled={finished.length === 0} onClick={() => setAsking("clear")}>
              Clear the line
            </Button>
          </>
        }
      >
        <Link href="/" className="hover:text-ink">
          Contact sheet
        </Link>
        <h1 className="font-[560] text-ink">Drying line</h1>
      </Header>
      <main className="min-h-0 flex-1 overflow-y-auto px-5 py-4 wide:px-8">
        {open.length > 0 && (
          <section aria-label="Being made" className="mx-auto mb-8 max-w-[1100px]">
            <div className="flex items-baseline gap-3">
              <h2 className="text-head font-semibold">Being made</h2>
              <span role="status" className="text-note text-soft">
                {going.length > 0 &&
                  [`${going.length} to go`, left(line?.seconds_left ?? null)]
                    .filter(Boolean)
                    .join(", ")}
              </span>
            </div>
            {line && going.length > 1 && (
              <div
                role="progressbar"
                aria-label="Progress of the order"
                aria-valuenow={Math.round(line.progress * 100)}
                className="mt-2 h-1 bg-[#3d3d3d]"
              >
                <div className="h-full bg-amber" style={{ width: `${line.progress * 100}%` }} />
              </div>
            )}
            <ul className="mt-1">
              {open.map((job) => (
                <Drying key={job.id} job={job} current={line?.current ?? 0} />
              ))}
            </ul>
          </section>
        )}
        {now.isSuccess && open.length === 0 && finished.length === 0 && (
          <div className="grid h-80 place-items-center text-center text-soft">
            <p>
              Nothing hangs here yet.
              <br />
              What is delivered from the Bench or the contact sheet comes here.
            </p>
          </div>
        )}
        {finished.length > 0 && (
          <section aria-label="Finished">
            <ul
              className="grid auto-rows-[286px] grid-cols-[repeat(auto-fill,minmax(212px,1fr))]"
              style={{ background: ROPE, backgroundSize: "100% 286px" }}
            >
              {finished.map((job) => (
                <Hung key={job.id} job={job} act={act} />
              ))}
            </ul>
            {finished.length >= 60 && (
              <div className="mt-6 text-center">
                <Button
                  disabled={more.isFetching || (more.isFetched && !more.hasNextPage)}
                  onClick={() => more.fetchNextPage()}
                >
                  Earlier ones
                </Button>
              </div>
            )}
          </section>
        )}
      </main>
      {asking === "clear" && (
        <Question
          title="Clear the line?"
          does="Clear"
          onDo={() => {
            act(api.clearFinished);
            setAsking(null);
          }}
          onLeave={() => setAsking(null)}
        >
          <p>What is finished is taken off the line. The files stay where they are.</p>
        </Question>
      )}
      {asking === "cancel" && (
        <Question
          title="Cancel all?"
          does="Cancel all"
          onDo={() => {
            act(api.cancelDeliveries);
            setAsking(null);
          }}
          onLeave={() => setAsking(null)}
        >
          <p>
            {open.length === 1 ? "One delivery is" : `${open.length} deliveries are`} given up. What
            is finished stays.
          </p>
        </Question>
      )}
    </div>
  );
}

/** A finished print, hung on the line. */
function Hung({ job, act }: { job: Delivery; act: ReturnType<typeof useDrying> }) {
  const [lost, setLost] = useState(false);
  const name = job.file?.split(/[\\/]/).at(-1) ?? job.title;
  return (
    <li className="group relative flex flex-col items-center px-3">
      <span aria-hidden="true" className="relative h-4 w-2 rounded-[2px] bg-[#8a7350]" />
      <div className="-mt-1.5 grid h-[176px] place-items-start justify-items-center">
        {lost ? (
          <span className="grid h-28 w-40 place-items-center bg-raise text-note text-faint">
            {job.output.holds === "negative" ? "a negative" : "no small picture"}
          </span>
        ) : (
          <img
            src={deliveredUrl(job.id, "small")}
            alt=""
            className={`max-h-[176px] max-w-full shadow-[0_6px_20px_#0009] ${job.there ? "" : "opacity-40"}`}
            onError={() => setLost(true)}
          />
        )}
      </div>
      <div className="mt-2 w-full min-w-0 text-center">
        <p className="truncate text-[12.5px]" title={job.file ?? undefined}>
          {name}
        </p>
        <p className="truncate text-note text-faint" title={summary(job.output)}>
          {summary(job.output)}
        </p>
        <p className="truncate text-note text-faint">
          {job.there ? made(job) : "The file was moved or deleted."}
        </p>
        <p className="mt-0.5 flex flex-wrap justify-center gap-x-2.5 text-note text-soft opacity-0 group-focus-within:opacity-100 group-hover:opacity-100">
          <DryingActions job={job} act={act} />
        </p>
      </div>
    </li>
  );
}
