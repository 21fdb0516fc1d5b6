import type { ReactNode } from 'react';
import type { ToDescribe } from '@/api/types';
import { counted } from '@/words/figures';

/** The page that the document in hand begins with: what it is called stands there. */
export function FirstPage({ document, children }: { document: ToDescribe; children?: ReactNode }) {
  return (
    <aside
      aria-label="First page"
      className="on-surround flex w-full shrink-0 flex-col gap-3 bg-surround p-5 text-surround-ink lg:min-h-0 lg:w-[22rem]"
    >
      <p className="font-mono text-small">
        page {document.first_page}
        {document.pages > 1 && `, the first of ${counted(document.pages, 'page')}`}
      </p>
      {document.clean && (
        <img
          key={document.clean}
          src={`/iiif/render/${document.clean}/full/!900,1300/0/default.webp`}
          alt={`The first page of document ${document.number}`}
          className="max-h-full min-h-40 max-w-full shrink self-center object-contain"
        />
      )}
      {children}
    </aside>
  );
}
