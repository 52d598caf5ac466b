import { Component, type ReactNode } from "react";
import { Button } from "./Button";

/** Where a part of the window broke: what was done is kept, and the window can be opened anew. */
export class Fallen extends Component<{ children: ReactNode }, { error: Error | null }> {
  override state = { error: null as Error | null };

  static getDerivedStateFromError(error: Error) {
    return { error };
  }

  override render() {
    const { error } = this.state;
    if (!error) return this.props.children;
    return (
      <div role="alert" className="m-auto flex h-full max-w-md flex-col justify-center gap-3">
        <h1 className="text-head font-semibold">This window broke</h1>
        <p className="text-soft">
          All that was done before is kept. Open the window anew; if it breaks again, this is what
          to report: {error.message}
        </p>
        <div>
          <Button go onClick={() => location.reload()}>
            Open it anew
          </Button>
        </div>
      </div>
    );
  }
}
