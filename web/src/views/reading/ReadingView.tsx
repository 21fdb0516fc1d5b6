import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useRef, useState } from 'react';
import { alikeQuery, figuresQuery, textAddress, wordsQuery } from '@/api/reading';
import type { Box, PageRow, Pages, Stack, WordEdit } from '@/api/types';
import type { Hands } from '@/engine/changes/hands';
import { readingCommands } from '@/engine/keys/reading';
import { keyOf } from '@/engine/reading/queue';
import { coreOf, lineWith, putLike } from '@/engine/reading/words';
import type { Close } from '@/engine/zoom/kept';
import { useCommands } from '@/hooks/useCommands';
import { useDoubts } from '@/hooks/useDoubts';
import { type Picked, useFinding } from '@/hooks/useFinding';
import { useTyping } from '@/hooks/useTyping';
import { useWordsAhead } from '@/hooks/useWordsAhead';
import { Empty, Loading } from '@/ui/States';
import { counted } from '@/words/figures';
import { Elsewhere } from './Elsewhere';
import { FindBar } from './FindBar';
import { LineInHand } from './LineInHand';
import { OrderPanel } from './OrderPanel';
import { PageWithWords } from './PageWithWords';
import { ReadIn } from './ReadIn';
import { ReadingHead, type Scope, type Tool } from './ReadingHead';
import { WordForm } from './WordForm';

export type ReadingViewProps = {
  stack: Stack | undefined;
  stackId: number;
  data: Pages | undefined;
  /** The page that the address names: its words are gone through; without one those of the whole stack. */
  page: PageRow | undefined;
  hands: Hands;
  may: boolean;
  /** What is looked for at first. */
  find?: string | undefined;
  /** Another page is looked at. */
  onPage: (id: number) => void;
  /** Pages that hold what is looked for: the fore-edge shows them. */
  onHits: (pages: readonly number[]) => void;
  onScope: (page: number | undefined) => void;
  onLeave: () => void;
};

const READ_ONLY = 'You may look at the text, and not put it right.';

/** The text of a stack: the doubtful words one after the other, each under its picture. */
export function ReadingView(props: ReadingViewProps) {
  const { stack, stackId, data, page: named, hands, may, find, onPage, onHits, onScope, onLeave } = props;
  const [picked, setPicked] = useState<Picked>();
  const [close, setClose] = useState<Close>();
  const [shown, setShown] = useState('');
  const [tool, setTool] = useState<Tool>('');
  const [order, setOrder] = useState<readonly number[]>();
  const field = useRef<HTMLInputElement>(null);
  const byId = useMemo(() => new Map(data?.pages.map((page) => [page.id, page]) ?? []), [data?.pages]);
  const change = data?.change ?? 0;
  const scope: Scope = named ? 'page' : 'stack';
  const { data: figures } = useQuery(figuresQuery(stackId, named?.id, change));
  const { queue, happen, anew } = useDoubts(stackId, named?.id, figures?.doubtful ?? 0);
  const row = queue.rows[queue.at];
  const target: Picked | undefined = picked ?? row;
  const page = byId.get(target?.page ?? named?.id ?? -1) ?? named ?? data?.pages.find(({ clean }) => clean);
  const why = may ? '' : READ_ONLY;

  const {
    data: text,
    error,
    isPlaceholderData: former,
  } = useQuery({
    ...wordsQuery(page?.id ?? -1, page?.change ?? 0),
    enabled: page?.state === 'ready',
    placeholderData: (before, query) => (query?.queryKey[1] === page?.id ? before : undefined),
  });
  const line = text && target && page?.id === target.page ? lineWith(text, target.box) : undefined;
  const word = line?.words[line.at];
  const { data: alike } = useQuery({
    ...alikeQuery(target?.page ?? -1, target?.box ?? [0, 0, 0, 0], change),
    enabled: word !== undefined && may,
  });
  const others = alike && word ? alike.words : NONE;
  const suggestions = picked ? (word?.alternatives ?? NO_TEXTS) : (row?.suggestions ?? NO_TEXTS);

  // The fore-edge shows which page is looked at.
  const seen = page?.id;
  const mark = useRef(onPage);
  useEffect(() => {
    mark.current = onPage;
  });
  useEffect(() => {
    if (seen !== undefined) mark.current(seen);
  }, [seen]);

  // A word that was read otherwise since it was put into the queue is there under another place by now.
  const stale = !picked && text && !former && page?.id === row?.page && !line ? row : undefined;
  useEffect(() => {
    if (stale) happen({ kind: 'decided', words: [stale] });
  }, [stale, happen]);

  useWordsAhead(queue.rows.slice(queue.at + 1, queue.at + 4), byId);

  const decided = (words: readonly Picked[]) => {
    happen({ kind: 'decided', words });
    setPicked(undefined);
  };
  const put = (edits: WordEdit[]) => {
    if (!may || !edits.length) return;
    hands.do({ do: 'put right', edits }).catch(anew);
    decided(edits);
  };
  const edit = (kind: WordEdit['kind'], after = ''): WordEdit[] =>
    target && word ? [{ page: target.page, box: target.box, kind, before: word.text, after, order: [] }] : [];
  const take = (after: string, all = false) => {
    if (!word || !after.trim()) return;
    const same = all
      ? others.map(({ page: on, box, text: was }) => ({
          page: on,
          box,
          kind: 'word' as const,
          before: was,
          after: putLike(word.text, after, was),
          order: [],
        }))
      : [];
    put([...edit('word', after), ...same]);
  };
  const list = (text: string) => {
    const added = coreOf(text);
    if (!may || !added) return;
    hands.do({ do: 'word list', words: null, more: [added] }).then(anew, () => undefined);
  };
  const search = useFinding({ stackId, page, change, picked, asked: find, onPick: setPicked });
  const { hits } = search;
  const tell = useRef(onHits);
  useEffect(() => {
    tell.current = onHits;
  });
  useEffect(() => tell.current(hits?.map(({ page: on }) => on) ?? NO_PAGES), [hits]);
  useEffect(() => () => tell.current(NO_PAGES), []);
  const step = (by: number) => {
    setPicked(undefined);
    happen({ kind: 'step', by });
  };
  const turn = (way: 'undo' | 'redo') => hands.turn(way).then(anew, () => undefined);

  const leaveOut = (box: Box | undefined) => {
    setTool('');
    if (page && box) put([{ page: page.id, box, kind: 'area', before: '', after: '', order: [] }]);
  };
  const reorder = (blocks: readonly number[]) => {
    setTool('');
    setOrder(undefined);
    const middles = blocks.flatMap((block) => {
      const box = text?.blocks[block]?.box;
      return box ? [[(box[0] + box[2]) / 2, (box[1] + box[3]) / 2] as [number, number]] : [];
    });
    if (page && text)
      put([{ page: page.id, box: [0, 0, ...text.size_px], kind: 'order', before: '', after: '', order: middles }]);
  };
  const putToolAway = () => {
    setTool('');
    setOrder(undefined);
  };
  useCommands(
    readingCommands({
      some: word !== undefined && may,
      suggestions: suggestions.length,
      alike: others.length > 0,
      marked: (word?.mark ?? '') !== '',
      inHand: search.words !== undefined || tool !== '',
      take: () => take(shown),
      takeAll: () => take(shown, true),
      choose: (at) => suggestions[at] && take(suggestions[at]),
      unreadable: () => put(edit('unreadable')),
      notText: () => put(edit('not text')),
      edit: () => {
        field.current?.focus();
        field.current?.select();
      },
      list: () => list(shown),
      back: () => put(edit('back')),
      block: () => leaveOut(text?.blocks[line?.block ?? -1]?.box),
      area: () => setTool(tool === 'area' ? '' : 'area'),
      order: () => setTool(tool === 'order' ? '' : 'order'),
      step,
      scope: () => onScope(named ? undefined : page?.id),
      find: search.open,
      turn,
      putAway: () => (tool ? putToolAway() : search.close()),
      leave: onLeave,
    }),
  );
  useTyping(field, word !== undefined && may);

  const readIn = stack && (
    <ReadIn
      stack={{ ...stack, change }}
      page={page}
      document={documentOf(data, page)}
      why={why}
      onChange={(doing) => hands.do(doing).then(anew, () => undefined)}
    />
  );
  if (data?.pages.every(({ words }) => words === null) && !queue.rows.length)
    return (
      <main className="flex-1">
        <Empty title={stack?.read_later ? 'Reading is put off' : 'No page has been read yet'}>
          <p>
            {stack?.read_later
              ? 'Pages are corrected and can be bound, without text to search.'
              : 'The text of a page can be put right as soon as it has been read.'}
          </p>
          {readIn}
        </Empty>
      </main>
    );
  return (
    <main className="flex min-h-0 min-w-0 flex-1 flex-col lg:flex-row">
      {page && (
        <PageWithWords
          page={page}
          text={text}
          line={line?.box}
          word={word?.box}
          found={search.places}
          order={tool === 'order' ? order : undefined}
          marking={tool === 'area'}
          onArea={leaveOut}
          close={close}
          onClose={setClose}
          onWord={(box) => setPicked({ page: page.id, box })}
        />
      )}
      <div className="flex min-w-0 shrink-0 flex-col bg-ground lg:w-[55%] lg:max-w-[46rem]">
        {search.words !== undefined && (
          <FindBar
            field={search.field}
            words={search.words}
            onWords={search.ask}
            pages={search.hits?.length}
            unsure={search.hits?.filter(({ unsure }) => unsure).length ?? 0}
            place={[search.here, search.places.length]}
            problem={search.problem}
            onStep={search.step}
            onClose={search.close}
          />
        )}
        <div className="flex min-h-0 flex-1 flex-col gap-4 overflow-y-auto px-6 py-5">
          <ReadingHead
            stackId={stackId}
            stackName={stack?.name ?? ''}
            change={change}
            figures={figures}
            place={row && !picked ? `${queue.at + 1} of ${Math.max(figures?.doubtful ?? 0, queue.rows.length)}` : ''}
            scope={scope}
            page={page?.number}
            onScope={(next) => onScope(next === 'page' ? page?.id : undefined)}
            tool={tool}
            onTool={setTool}
            onFind={search.open}
            why={why}
            onList={(words) => hands.do({ do: 'word list', words, more: [] }).then(anew, () => undefined)}
          >
            {readIn}
          </ReadingHead>
          {text?.lost.length ? (
            <p role="status" className="border-l-3 border-review bg-slip px-3 py-2">
              {counted(text.lost.length, 'word')} put right by hand {text.lost.length === 1 ? 'finds' : 'find'} no place
              in the text as it was read last: {text.lost.map(({ before, after }) => `“${after || before}”`).join(', ')}
              .
            </p>
          ) : null}
          {tool === 'order' && text && page ? (
            <OrderPanel key={page.id} text={text} onShown={setOrder} onApply={reorder} onClose={putToolAway} />
          ) : error ? (
            <p role="alert">{error.message}</p>
          ) : page && line && word && target ? (
            <>
              <p className="text-small text-soft">
                Page <span className="font-mono">{page.number}</span>
                {search.unsure ? ' · read otherwise, and perhaps what you look for' : ''}
              </p>
              <LineInHand page={page} line={line} shown={shown} />
              <WordForm
                word={keyOf(target)}
                read={word.text}
                suggestions={suggestions.slice(0, 5)}
                field={field}
                onShown={setShown}
                onTake={take}
                onUnreadable={() => put(edit('unreadable'))}
                onNotText={() => put(edit('not text'))}
                onList={list}
                why={why}
              />
              {alike && (
                <Elsewhere
                  found={alike}
                  byId={byId}
                  onAll={() => take(shown, true)}
                  onOne={(on, box) => setPicked({ page: on, box })}
                />
              )}
            </>
          ) : target ? (
            <Loading label="Fetching the word" className="late h-40" />
          ) : queue.ended || !data ? (
            <Empty title="No doubtful word is left">
              <p>
                {scope === 'page' ? 'All words of this page are decided.' : 'All words of this stack are decided.'}{' '}
                Click any word on the page to put it right.
              </p>
            </Empty>
          ) : (
            <Loading label="Fetching the doubtful words" className="late h-40" />
          )}
          <p className="mt-auto flex items-center gap-2 pt-4 text-small text-soft">
            Text of the stack as
            {(['txt', 'alto', 'hocr'] as const).map((form) => (
              <a key={form} href={textAddress(stackId, form)} className="text-ink underline" download>
                {FORMS[form]}
              </a>
            ))}
          </p>
        </div>
      </div>
    </main>
  );
}

/** The pages of the document that a page is in. */
function documentOf(data: Pages | undefined, page: PageRow | undefined): number[] {
  if (!data || !page) return [];
  const starts = new Set(data.starts);
  const at = data.pages.findIndex(({ id }) => id === page.id);
  let first = at;
  while (first > 0 && !starts.has(data.pages[first]?.id ?? -1)) first -= 1;
  const next = data.pages.findIndex(({ id }, place) => place > at && starts.has(id));
  return data.pages.slice(first, next < 0 ? undefined : next).map(({ id }) => id);
}

const NONE: { page: number; box: Box; text: string }[] = [];
const FORMS = { txt: 'plain text', alto: 'ALTO', hocr: 'hOCR' };
const NO_TEXTS: string[] = [];
const NO_PAGES: readonly number[] = [];
