import type { QueryClient } from "@tanstack/react-query";
import type { Schemas } from "./client";

type News = Schemas["News"];
const AGAIN_MS = 1500;

/** Keeps a window's lists as the server tells them, as long as it is open. */
export function listen(queries: QueryClient) {
  let last: News | null = null;

  const receive = (news: News) => {
    queries.setQueryData(["imports"], news.imports);
    const open = news.merges.filter(({ state }) => state !== "done" && state !== "cancelled");
    queries.setQueryData(["merges"], open);
    for (const merge of news.merges) queries.setQueryData(["merge", merge.id], merge);
    queries.setQueryData(["line"], news.line);
    if (last?.line.version !== news.line.version)
      queries.invalidateQueries({ queryKey: ["dried"] });
    if (last && last.frames !== news.frames) {
      for (const key of ["frames", "rolls", "bin", "brackets"]) {
        queries.invalidateQueries({ queryKey: [key] });
      }
    }
    last = news;
  };
  const connect = () => {
    const socket = new WebSocket(`ws://${location.host}/api/news`);
    socket.onmessage = (event) => receive(JSON.parse(event.data) as News);
    socket.onclose = () => window.setTimeout(connect, AGAIN_MS);
  };
  connect();
}
