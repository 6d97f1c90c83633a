import { Component, type ReactNode } from "react";

import { Button, buttonLook } from "../kit/Button";

interface Props {
  /** What is shown: another place begins anew. */
  place: string;
  children: ReactNode;
}

/** A fault in one station is told there, with a way on; the rest of the page stays. */
export class ErrorBoundary extends Component<Props, { error: Error | null; place: string }> {
  state = { error: null as Error | null, place: this.props.place };

  static getDerivedStateFromError(error: Error) {
    return { error };
  }

  static getDerivedStateFromProps(props: Props, state: { error: Error | null; place: string }) {
    return props.place === state.place ? null : { error: null, place: props.place };
  }

  render() {
    const { error } = this.state;
    if (!error) return this.props.children;
    const lost = isLostScript(error);
    return (
      <div role="alert" className="m-6 max-w-2xl border-l-4 border-oxide bg-oxide-bg px-4 py-3">
        <h1 className="text-[19px] font-bold">
          {lost ? "A part of this page could not be loaded." : "This page has a fault."}
        </h1>
        <p className="mt-1">
          {lost
            ? "The server does not answer, or Valleywind was replaced by a newer one. Load the page again."
            : "What is saved is safe. Try again, or go to another station."}
        </p>
        {!lost && <p className="mt-1 font-mono text-[14px] break-words">{error.message}</p>}
        <div className="mt-3 flex gap-2">
          {lost ? (
            <Button look="main" onClick={() => location.reload()}>
              Load again
            </Button>
          ) : (
            <Button look="main" onClick={() => this.setState({ error: null })}>
              Try again
            </Button>
          )}
          <a className={buttonLook()} href="/machines">
            Machines
          </a>
        </div>
      </div>
    );
  }
}

/** Whether a station's script did not come: browsers word it each in their way. */
function isLostScript(error: Error): boolean {
  return /dynamically imported module|Importing a module script|error loading dynamically/i.test(
    error.message,
  );
}
