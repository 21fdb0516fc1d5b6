import { Component, type ReactNode } from 'react';
import { cache } from '@/api/cache';
import { Button } from './Button';

type Props = {
  what: string;
  /** What is shown in it: where that is another thing, the fault of the one before is over. */
  of?: number;
  /** What stands there instead, where that says enough. */
  instead?: ReactNode;
  children: ReactNode;
};
type State = { error: Error | undefined; of: number | undefined };

const FAULT =
  'This is a fault in the program, not in your pages: nothing is lost, and everything around it goes on. Try again, or load the page of the browser again.';
const GONE =
  'This part of the program could not be fetched: the server does not answer, or it has been updated since this page was opened. What you did is kept.';

/** A piece of the program that could not be fetched: the line is down, or the server has a newer one by now. */
export class NotThere extends Error {}

/** Keeps a fault of one part within it: the others go on, and it says what can be done. */
export class Guarded extends Component<Props, State> {
  override state: State = { error: undefined, of: this.props.of };

  static getDerivedStateFromError(error: Error): Pick<State, 'error'> {
    return { error };
  }

  static getDerivedStateFromProps({ of }: Props, state: State): State | null {
    return of === state.of ? null : { error: undefined, of };
  }

  /** It may have been an answer that could not be shown: all are asked for anew. */
  private again = () => {
    void cache.resetQueries();
    this.setState({ error: undefined });
  };

  override render() {
    if (!this.state.error) return this.props.children;
    if (this.props.instead !== undefined) return this.props.instead;
    const gone = this.state.error instanceof NotThere;
    return (
      <div
        role="alert"
        className="flex min-h-80 flex-1 flex-col items-center justify-center gap-3 bg-panel p-8 text-center text-ink"
      >
        <p className="text-title font-semibold">{this.props.what} cannot be shown</p>
        <p className="max-w-[52ch]">{gone ? GONE : FAULT}</p>
        <p hidden={gone} className="max-w-[72ch] font-mono text-small text-soft [overflow-wrap:anywhere]">
          {this.state.error.message}
        </p>
        {gone ? (
          <Button onClick={() => window.location.reload()}>Load the page again</Button>
        ) : (
          <Button onClick={this.again}>Try again</Button>
        )}
      </div>
    );
  }
}
