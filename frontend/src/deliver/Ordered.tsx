import { useQuery } from "@tanstack/react-query";
import { Link } from "wouter";
import { api } from "../api/client";
import type { Delivery } from "../api/types";
import { Drying } from "../drying/Drying";
import { useLine } from "../drying/line";
import { Button } from "../parts/Button";

/** What was ordered, as it comes. */
export function Ordered(props: {
  jobs: Delivery[];
  onAnother: () => void;
  onClose: () => void;
  onCancel: (some: Delivery[]) => Promise<unknown>;
}) {
  const { jobs, onAnother, onClose, onCancel } = props;
  const now = useQuery({ queryKey: ["dried"], queryFn: api.dryingLine });
  const line = useLine();
  const known = new Map(
    [...(now.data?.open ?? []), ...(now.data?.finished ?? [])].map((job) => [job.id, job]),
  );
  const newest = Math.max(0, ...known.keys());
  // of a large order the first ones that were finished are not among the latest any more
  const shown = jobs.map(
    (job) => known.get(job.id) ?? (job.id < newest ? { ...job, state: "done" as const } : job),
  );
  const open = shown.filter(({ state }) => state === "waiting" || state === "running");
  const failed = shown.filter(({ state }) => state === "failed").length;
  return (
    <>
      <p role="status" className="mb-2">
        {open.length > 0
          ? `On the drying line: ${shown.length - open.length} of ${shown.length} finished.`
          : failed > 0
            ? `${failed} of ${shown.length} could not be made.`
            : shown.length === 1
              ? "The print is finished."
              : `All ${shown.length} files are finished.`}
      </p>
      <ul className="min-h-0 overflow-y-auto">
        {shown.map((job) => (
          <Drying key={job.id} job={job} current={line?.current ?? 0} />
        ))}
      </ul>
      <div className="mt-5 flex items-center justify-end gap-2">
        <Link href="/drying" className="mr-auto text-note text-soft hover:text-ink">
          The whole drying line
        </Link>
        {open.length > 0 && <Button onClick={() => onCancel(open)}>Cancel</Button>}
        <Button onClick={onAnother}>Deliver another</Button>
        <Button go onClick={onClose}>
          {open.length > 0 ? "Go on working" : "Close"}
        </Button>
      </div>
    </>
  );
}
