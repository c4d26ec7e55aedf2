import { Component } from 'react';
import type { ReactNode } from 'react';
import { NotFetched } from '../kit/lazyPart';
import { Notice } from '../kit/Message';
import { FailedRequest } from './api';

/** Why something could not be shown, and what to do. */
export function Failure({ error, retry }: { error: unknown; retry?: () => void }) {
  const failed = error instanceof FailedRequest ? error : null;
  const notFetched = error instanceof NotFetched ? error : null;
  const again = notFetched ? () => window.location.reload() : retry;
  return (
    <Notice title={(failed ?? notFetched)?.message ?? 'This part of the page broke.'}>
      {failed?.problem?.detail && <p>{failed.problem.detail}</p>}
      {notFetched && <p>What was typed is kept. Try again when there is a connection.</p>}
      {again && (
        <button type="button" onClick={again} className="min-h-11 font-bold text-accent underline md:min-h-8">
          Try again
        </button>
      )}
    </Notice>
  );
}

/** Keeps a part that breaks from taking the rest of the page with it. */
export class Guarded extends Component<{ children: ReactNode }, { readonly error: unknown }> {
  override state = { error: null as unknown };

  static getDerivedStateFromError(error: unknown) {
    return { error };
  }

  override render() {
    if (this.state.error === null) return this.props.children;
    return <Failure error={this.state.error} retry={() => this.setState({ error: null })} />;
  }
}
