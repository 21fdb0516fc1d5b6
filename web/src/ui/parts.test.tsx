// @vitest-environment happy-dom
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { notify } from '@/engine/notices';
import { useCommands } from '@/hooks/useCommands';
import { Button } from './Button';
import { Finder } from './Finder';
import { Guarded, NotThere } from './Guarded';
import { Keyboard } from './Keyboard';
import { Notices } from './Notices';
import { Rename } from './Rename';
import { Slider } from './Slider';
import { Tips } from './Tip';

afterEach(cleanup);

function Absent(): never {
  throw new NotThere();
}

describe('a button', () => {
  it('that cannot be used says why, and does nothing', () => {
    const done = vi.fn();
    const { rerender } = render(
      <Button why="Give it a name." onClick={done}>
        Save
      </Button>,
    );
    const button = screen.getByRole('button', { name: 'Save' });
    fireEvent.click(button);
    expect(done).not.toHaveBeenCalled();
    expect(button.getAttribute('aria-disabled')).toBe('true');
    expect(document.getElementById(button.getAttribute('aria-describedby') ?? '')?.textContent).toBe('Give it a name.');
    rerender(
      <Button why="" onClick={done}>
        Save
      </Button>,
    );
    fireEvent.click(screen.getByRole('button', { name: 'Save' }));
    expect(done).toHaveBeenCalledOnce();
  });

  it('names its key for those who hear it, and not as part of its name', () => {
    render(<Button shortcut="Ctrl+k">Find</Button>);
    expect(screen.getByRole('button', { name: 'Find' }).getAttribute('aria-keyshortcuts')).toBe('Control+k');
  });

  it('that is a link looks like one and keeps its key', () => {
    render(
      <Button asChild shortcut="n">
        <a href="/new">New stack</a>
      </Button>,
    );
    expect(screen.getByRole('link', { name: 'New stack' }).textContent).toBe('New stackN');
  });
});

describe('a finder', () => {
  const items = Array.from({ length: 2000 }, (_, at) => ({ id: String(at), text: `${at + 1} leaf ${at + 1}.jpg` }));
  const field = () => screen.getByRole('combobox');

  it('shows a few of thousands, around the one in hand', () => {
    render(<Finder label="Page" items={items} chosen="1000" onChoose={() => undefined} />);
    expect(screen.getAllByRole('option').length).toBeLessThanOrEqual(60);
    expect(screen.getByRole('option', { selected: true }).textContent).toBe('1001 leaf 1001.jpg');
    expect(screen.getByRole('status').textContent).toContain('more');
  });

  it('finds by words, goes by arrow keys and chooses by Enter', () => {
    const choose = vi.fn();
    render(<Finder label="Page" items={items} onChoose={choose} />);
    fireEvent.change(field(), { target: { value: 'leaf 199' } });
    fireEvent.keyDown(field(), { key: 'ArrowDown' });
    fireEvent.keyDown(field(), { key: 'Enter' });
    expect(choose).toHaveBeenCalledExactlyOnceWith('1198');
    fireEvent.change(field(), { target: { value: 'nothing like it' } });
    fireEvent.keyDown(field(), { key: 'Enter' });
    expect(choose).toHaveBeenCalledOnce();
    expect(screen.getByRole('status').textContent).toContain('Nothing holds');
  });
});

const broken = { now: false };
function Part() {
  if (broken.now) throw new Error('no such thing');
  return <p>all well</p>;
}

describe('a fault in a part', () => {
  it('stays within it, says what can be done, and is over when it is', () => {
    vi.spyOn(console, 'error').mockImplementation(() => undefined);
    broken.now = true;
    render(
      <>
        <p>beside it</p>
        <Guarded what="This part">
          <Part />
        </Guarded>
      </>,
    );
    expect(screen.getByText('beside it')).toBeDefined();
    expect(screen.getByRole('alert').textContent).toContain('This part cannot be shown');
    expect(screen.getByRole('alert').textContent).toContain('no such thing');
    broken.now = false;
    fireEvent.click(screen.getByRole('button', { name: 'Try again' }));
    expect(screen.getByText('all well')).toBeDefined();
  });

  it('that could not be fetched is had by loading the page again', () => {
    vi.spyOn(console, 'error').mockImplementation(() => {});
    const load = vi.spyOn(window.location, 'reload').mockImplementation(() => {});
    render(
      <Guarded what="This view">
        <Absent />
      </Guarded>,
    );
    expect(screen.getByRole('alert').textContent).toContain('it has been updated since this page was opened');
    expect(screen.queryByRole('button', { name: 'Try again' })).toBeNull();
    fireEvent.click(screen.getByRole('button', { name: 'Load the page again' }));
    expect(load).toHaveBeenCalledOnce();
  });
});

describe('a name', () => {
  const shown = (onRename = vi.fn(), may = true) => {
    render(
      <Tips>
        <Rename name="Box 27" may={may} onRename={onRename} />
      </Tips>,
    );
    return onRename;
  };
  const write = (text: string) => {
    fireEvent.click(screen.getByRole('button', { name: 'Box 27' }));
    fireEvent.change(screen.getByLabelText('Name of the stack'), { target: { value: text } });
    return screen.getByLabelText('Name of the stack');
  };

  it('is written anew with Enter, or by leaving it', () => {
    const rename = shown();
    fireEvent.submit(write('Box 28'));
    expect(rename).toHaveBeenCalledExactlyOnceWith('Box 28');
    fireEvent.blur(write('Box 29'));
    expect(rename).toHaveBeenLastCalledWith('Box 29');
  });

  it('stays as it is with Escape, when it is emptied, and when it is the same', () => {
    const rename = shown();
    const field = write('Box 28');
    fireEvent.keyDown(field, { key: 'Escape' });
    fireEvent.submit(write('   '));
    fireEvent.submit(write('Box 27'));
    expect(rename).not.toHaveBeenCalled();
  });

  it('is no button for whoever may not', () => {
    shown(vi.fn(), false);
    expect(screen.queryByRole('button')).toBeNull();
    expect(screen.getByRole('heading').textContent).toBe('Box 27');
  });
});

it('a slider goes back to rest with Delete', () => {
  const change = vi.fn();
  render(<Slider label="Contrast" value={30} min={-100} max={100} rest={0} shown="30 %" onChange={change} />);
  fireEvent.keyDown(screen.getByRole('slider', { name: 'Contrast' }), { key: 'Delete' });
  expect(change).toHaveBeenCalledExactlyOnceWith(0);
});

function View({ onTurn }: { onTurn: () => void }) {
  useCommands([
    { name: 'turn', label: 'Turn to the right', key: 'r', subject: 'Turn', perform: onTurn },
    { name: 'cut', label: 'Cut', key: 'x', subject: 'Move', enabled: false, perform: onTurn },
  ]);
  return <input aria-label="a field" />;
}

describe('the keyboard', () => {
  const shown = () => {
    const turn = vi.fn();
    render(
      <>
        <Keyboard places={[]} />
        <View onTurn={turn} />
      </>,
    );
    return turn;
  };

  it('does what the open view says, but not while somebody types or a sheet lies over it', async () => {
    const turn = shown();
    fireEvent.keyDown(document.body, { key: 'r' });
    expect(turn).toHaveBeenCalledOnce();
    fireEvent.keyDown(screen.getByLabelText('a field'), { key: 'r' });
    fireEvent.keyDown(document.body, { key: '?', shiftKey: true });
    fireEvent.keyDown(document.body, { key: 'r' });
    expect((await screen.findByRole('dialog', { name: 'Keys' })).textContent).toContain('Turn to the right');
    fireEvent.keyDown(document.body, { key: 'r' });
    expect(turn).toHaveBeenCalledOnce();
  });

  it('finds what can be done by name, and does it', async () => {
    const turn = shown();
    fireEvent.keyDown(screen.getByLabelText('a field'), { key: 'k', ctrlKey: true });
    // What is typed before the field is there stands in it, and turns nothing.
    for (const key of 'righ') fireEvent.keyDown(document.body, { key });
    const field = await screen.findByRole('combobox');
    expect((field as HTMLInputElement).value).toBe('righ');
    expect(turn).not.toHaveBeenCalled();
    fireEvent.change(field, { target: { value: 'right' } });
    expect(screen.getAllByRole('option')).toHaveLength(1);
    fireEvent.keyDown(field, { key: 'Enter' });
    await vi.waitFor(() => expect(turn).toHaveBeenCalledOnce());
  });
});

describe('a notice', () => {
  it('is said once however often it comes, and until it is dismissed', async () => {
    render(<Notices />);
    act(() => {
      notify('Page 3 is gone.');
      notify('Page 3 is gone.');
    });
    expect(screen.getByText('Page 3 is gone.')).toBeTruthy();
    fireEvent.click(await screen.findByRole('button', { name: 'Dismiss' }));
    expect(screen.queryByText('Page 3 is gone.')).toBeNull();
  });
});
