import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "wouter";
import { api } from "../api/client";
import { Menu } from "../parts/Menu";
import { Drying } from "./Drying";
import { standing, useLine } from "./line";

const SHOWN = 6;

/** The drying line, folded into the head of every screen. */
export function DryingFold() {
  const line = useLine();
  const [open, setOpen] = useState(false);
  const dried = useQuery({ queryKey: ["dried"], queryFn: api.dryingLine, enabled: open });
  const busy = line && line.waiting + line.running > 0;
  const jobs = [...(dried.data?.open ?? []), ...(dried.data?.finished ?? [])];
  return (
    <Menu
      label="Drying line"
      align="end"
      open={open}
      onOpen={setOpen}
      className="w-[520px]"
      opens={
        <button
          type="button"
          aria-label="Drying line"
          title="Drying line: what was delivered, and what is being made"
          className="relative shrink-0 py-1 text-[12.5px] whitespace-nowrap text-soft hover:text-ink"
        >
          <span className="max-[1150px]:hidden">Drying line</span>
          <svg
            viewBox="0 0 16 16"
            aria-hidden="true"
            className="size-4 min-[1150px]:hidden"
            fill="none"
            stroke="currentColor"
          >
            <path d="M0 3.5H16" />
            <path d="M3.5 5.5H12.5V14.5H3.5Z" />
            <path d="M8 2V6" strokeWidth="2.4" />
          </svg>
          {busy ? (
            <span className="absolute inset-x-0 bottom-0 h-0.5 bg-[#3d3d3d]">
              <span
                className="block h-full bg-amber"
                style={{ width: `${line.progress * 100}%` }}
              />
            </span>
          ) : line?.failed ? (
            <span className="absolute inset-x-0 bottom-0 h-0.5 bg-loss" />
          ) : null}
        </button>
      }
    >
      <div className="flex items-baseline justify-between px-1 text-note text-soft">
        <span role="status">{(line && standing(line)) || "Nothing is being made."}</span>
        <Link href="/drying" className="hover:text-ink" onClick={() => setOpen(false)}>
          Open the drying line
        </Link>
      </div>
      {jobs.length > 0 && (
        <ul className="mt-1 max-h-[60vh] overflow-y-auto px-1">
          {jobs.slice(0, SHOWN).map((job) => (
            <Drying key={job.id} job={job} current={line?.current ?? 0} />
          ))}
        </ul>
      )}
    </Menu>
  );
}
