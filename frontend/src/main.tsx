import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { Route, Switch } from "wouter";
import { listen } from "./api/news";
import { BenchPage } from "./bench/BenchPage";
import { ContactPage } from "./contact/ContactPage";
import { DryingPage } from "./drying/DryingPage";
import { Fallen } from "./parts/Fallen";
import { Notices } from "./parts/Notice";
import { BinPage } from "./sheet/BinPage";
import { ComparePage } from "./sheet/ComparePage";
import { SheetPage } from "./sheet/SheetPage";
import { ShelfPage } from "./shelf/ShelfPage";
import "./styles.css";

const queries = new QueryClient({
  defaultOptions: { queries: { staleTime: 5_000, retry: 1, refetchOnWindowFocus: true } },
});

listen(queries);

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <Notices>
          <Fallen>
            <Switch>
              <Route path="/print/:id">
                {({ id }) => <BenchPage key={id} printId={Number(id)} />}
              </Route>
              <Route path="/compare/:ids">
                {({ ids }) => <ComparePage key={ids} ids={ids.split(",").map(Number)} />}
              </Route>
              <Route path="/shelf">
                <ShelfPage />
              </Route>
              <Route path="/drying">
                <DryingPage />
              </Route>
              <Route path="/contact">
                <ContactPage />
              </Route>
              <Route path="/bin">
                <BinPage />
              </Route>
              <Route path="/roll/:id">{({ id }) => <SheetPage rollId={Number(id)} />}</Route>
              <Route>
                <SheetPage rollId={null} />
              </Route>
            </Switch>
          </Fallen>
        </Notices>
      </QueryClientProvider>
    </StrictMode>,
  );
}
