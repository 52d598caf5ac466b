import { useQuery } from "@tanstack/react-query";
import { Link } from "wouter";
import { api } from "../api/client";
import { Header } from "../parts/Header";
import { Bench } from "./Bench";
import { Opening } from "./picture/Opening";

/** Loads what the Bench needs, and says so when it cannot. */
export function BenchPage({ printId }: { printId: number }) {
  const print = useQuery({ queryKey: ["print", printId], queryFn: () => api.print(printId) });
  const frame = useQuery({
    queryKey: ["frame", print.data?.frame_id],
    queryFn: () => api.frame(print.data?.frame_id ?? 0),
    enabled: print.isSuccess,
  });
  const shelf = useQuery({ queryKey: ["shelf"], queryFn: api.shelf, staleTime: Infinity });
  const schema = useQuery({ queryKey: ["schema"], queryFn: api.recipeSchema, staleTime: Infinity });
  const error = print.error ?? frame.error ?? shelf.error ?? schema.error;
  if (error) {
    return (
      <div className="flex h-full flex-col">
        <Header actions={null}>
          <Link href="/">Contact sheet</Link>
        </Header>
        <div role="alert" className="m-auto max-w-md text-center">
          <h1 className="text-head font-semibold">This print cannot be opened</h1>
          <p className="mt-2 text-soft">{error.message}</p>
        </div>
      </div>
    );
  }
  if (!print.data || !frame.data || !shelf.data || !schema.data) {
    return (
      <div className="flex h-full flex-col">
        <Header actions={null}>
          <Link href="/">Contact sheet</Link>
        </Header>
        {/* where the picture will be */}
        <div className="grid flex-1 grid-cols-[304px_1fr] pt-[102px] pb-[95px] wide:grid-cols-[400px_1fr]">
          <div />
          <div className="relative bg-[#3b3b3b]">
            {print.data && <Opening frame={print.data.frame_id} margin={12} />}
          </div>
        </div>
      </div>
    );
  }
  return <Bench opened={print.data} frame={frame.data} shelf={shelf.data} schema={schema.data} />;
}
