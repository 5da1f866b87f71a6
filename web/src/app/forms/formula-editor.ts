// The editor of formulas, put together of CodeMirror's parts: loaded when one is shown first.
import { autocompletion, completionKeymap, type Completion, type CompletionContext, type CompletionResult } from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { HighlightStyle, StreamLanguage, syntaxHighlighting } from '@codemirror/language';
import { forceLinting, linter, type Diagnostic } from '@codemirror/lint';
import { EditorState } from '@codemirror/state';
import { EditorView, keymap, placeholder, tooltips } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { reportFields } from '../../../../core/formula/ast';
import type { FormulaFault } from '../../../../core/formula/fault';
import { forms } from '../../../../core/formula/forms';
import { functions } from '../../../../core/formula/functions/all';
import { quotedName } from '../../../../core/formula/print';
import { windows } from '../../../../core/formula/windows';

const words = ['and', 'or', 'not', 'is', 'null', 'true', 'false', 'case', 'when', 'then', 'else', 'end', 'in', 'between', 'like', 'ilike', 'escape', 'distinct', 'from', 'for', 'as', 'cast', 'over', 'partition', 'order', 'by', 'interval', 'date', 'time', 'timestamp', 'numeric', 'integer', 'text', 'boolean', 'both', 'leading', 'trailing'];
const known = new Set(words);

const language = StreamLanguage.define({
  token(stream) {
    if (stream.eatSpace()) return null;
    if (stream.match(/^--.*/) || stream.match(/^\/\*.*?\*\//)) return 'comment';
    if (stream.match(/^"(?:[^"]|"")*"?/)) return 'variableName';
    if (stream.match(/^'(?:[^']|'')*'?/)) return 'string';
    if (stream.match(/^\d[\d.]*/)) return 'number';
    const word = stream.match(/^[\p{L}_][\p{L}\p{N}_]*/u);
    if (word && word !== true) return known.has(word[0].toLowerCase()) ? 'keyword' : 'name';
    stream.next();
    return 'operator';
  },
});

const colours = HighlightStyle.define([
  { tag: tags.variableName, color: 'var(--copper)' },
  { tag: tags.string, color: 'var(--verdigris)' },
  { tag: tags.keyword, fontWeight: '600' },
  { tag: tags.comment, color: 'var(--muted)', fontStyle: 'italic' },
]);

const look = EditorView.theme({
  '&.cm-editor': { border: '1px solid var(--line)', borderRadius: '6px', backgroundColor: 'var(--panel)', color: 'var(--ink)', fontSize: '13px' },
  '&.cm-editor.cm-focused': { outline: '2px solid var(--copper)', outlineOffset: '-1px' },
  '.cm-content': { fontFamily: 'ui-monospace, monospace', padding: '4px 0', minHeight: '42px', caretColor: 'var(--ink)' },
  '.cm-cursor': { borderLeftColor: 'var(--ink)' },
  '.cm-selectionBackground, &.cm-focused .cm-selectionBackground': { backgroundColor: 'var(--copper-soft)' },
  '.cm-tooltip': { border: '1px solid var(--line)', borderRadius: '6px', backgroundColor: 'var(--panel)', color: 'var(--ink)' },
  '.cm-tooltip-autocomplete ul li[aria-selected]': { backgroundColor: 'var(--copper-soft)', color: 'var(--ink)' },
  '.cm-completionDetail': { color: 'var(--muted)', fontStyle: 'normal' },
  '.cm-completionInfo': { maxWidth: '320px', padding: '4px 8px' },
  '.cm-diagnostic': { padding: '4px 8px' },
  '.cm-diagnostic-error': { borderLeft: '3px solid var(--madder)' },
});

const signature = ({ called, args }: (typeof functions)[number]) => `(${called ?? args.join(', ')})`;
/** What may be written: functions by their names, each once, and words. */
const written: readonly Completion[] = [
  ...[...new Map(functions.filter(({ name }) => /^\w+$/.test(name)).map((each) => [each.name, each])).values()].map((each): Completion => ({ label: each.name, type: 'function', detail: signature(each), info: `${each.says} ${each.example[0]} is ${each.example[1]}.`, apply: `${each.name}(` })),
  ...Object.entries(forms).filter(([name]) => /^\w+$/.test(name)).map(([name, form]): Completion => ({ label: name, type: 'function', detail: form.written, info: form.says })),
  ...Object.entries(windows).map(([name, window]): Completion => ({ label: name, type: 'function', detail: window.written.slice(name.length), info: window.says, apply: window.written.replaceAll('…', '') })),
  ...reportFields.map((field): Completion => ({ label: `report.${/ /.test(field) ? quotedName(field) : field}`, type: 'variable', detail: 'of the report' })),
  ...['case', 'when', 'then', 'else', 'end', 'null', 'true', 'false', 'is null', 'interval'].map((label): Completion => ({ label, type: 'keyword' })),
];

export interface FormulaEditorAsked {
  readonly parent: HTMLElement;
  readonly text: string;
  readonly label: string;
  columns(): readonly { readonly name: string; readonly type: string }[];
  /** Why the text is no formula, as it stands. */
  fault(): FormulaFault | undefined;
  changed(text: string): void;
  left(): void;
}

export function formulaEditor({ parent, text, label, columns, fault, changed, left }: FormulaEditorAsked): EditorView {
  const complete = (context: CompletionContext): CompletionResult | null => {
    const sofar = context.state.sliceDoc(0, context.pos);
    const isName = (sofar.match(/"/g)?.length ?? 0) % 2 === 1;
    const from = isName ? sofar.lastIndexOf('"') : (context.matchBefore(/[\p{L}_][\p{L}\p{N}_.]*$/u)?.from ?? context.pos);
    if (from === context.pos && !context.explicit) return null;
    const names = columns().map(({ name, type }): Completion => ({ label: quotedName(name), type: 'variable', detail: type, boost: 2 }));
    return { from, options: isName ? names : [...names, ...written], validFor: isName ? /^"[^"]*$/ : /^[\p{L}\p{N}_.]*$/u };
  };
  const faults = (view: EditorView): Diagnostic[] => {
    const now = view.state.doc.toString();
    const found = now.trim() === '' ? undefined : fault();
    return found ? [{ from: Math.min(found.from, now.length), to: Math.min(Math.max(found.to, found.from + 1), now.length), severity: 'error', message: found.says }] : [];
  };
  return new EditorView({
    parent,
    state: EditorState.create({
      doc: text,
      extensions: [
        history(),
        keymap.of([...completionKeymap, ...defaultKeymap, ...historyKeymap]),
        language,
        syntaxHighlighting(colours),
        autocompletion({ override: [complete], icons: false }),
        linter(faults, { delay: 200 }),
        tooltips({ position: 'fixed', parent: document.body }),
        placeholder('"Value" / "Boxes"'),
        EditorView.lineWrapping,
        EditorView.contentAttributes.of({ 'aria-label': label }),
        EditorView.updateListener.of((update) => update.docChanged && changed(update.state.doc.toString())),
        EditorView.domEventHandlers({ blur: () => left() }),
        look,
      ],
    }),
  });
}

/** Looks for faults once more: the columns may be others than before. */
export const lookAgain = (view: EditorView): void => forceLinting(view);
