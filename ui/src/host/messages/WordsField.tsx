import { autocompletion, type CompletionContext, completionKeymap } from '@codemirror/autocomplete'
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands'
import { EditorState } from '@codemirror/state'
import {
  Decoration,
  EditorView,
  keymap,
  MatchDecorator,
  ViewPlugin,
  type ViewUpdate,
  WidgetType,
} from '@codemirror/view'
import { getNonce } from 'get-nonce'
import { DropdownMenu } from 'radix-ui'
import { useEffect, useId, useRef } from 'react'
import type { Schemas } from '../../api/client'
import { say, told } from '../../say'
import { inserted, type Piece, pieceOf, pieces } from './pieces'

interface Props {
  label: string
  value: string
  known: Schemas['Placeholder'][]
  /** BCP 47, for who reads it out. */
  language: string
  fault: Schemas['Fault'] | undefined
  /** A subject is one line. */
  oneLine?: boolean
  onChange: (value: string) => void
}

/** A text in which facts stand as marked words. What is kept is a template in Mustache. */
export function WordsField({ label, value, known, language, fault, oneLine = false, onChange }: Props) {
  const id = useId()
  const holder = useRef<HTMLDivElement>(null)
  const editor = useRef<EditorView>(null)
  const changed = useRef(onChange)
  const first = useRef(value)
  changed.current = onChange
  const names = known.map(({ name }) => name).join()
  // biome-ignore lint/correctness/useExhaustiveDependencies: it begins anew only if other facts are known, and takes over its value below
  useEffect(() => {
    if (!holder.current) return
    const view = new EditorView({
      parent: holder.current,
      doc: first.current,
      extensions: [
        setUp(known, oneLine),
        EditorView.contentAttributes.of({
          'aria-labelledby': `${id}-label`,
          'aria-describedby': `${id}-note`,
          lang: language,
          spellcheck: 'true',
          autocapitalize: 'sentences',
        }),
        EditorView.updateListener.of((update) => {
          if (update.docChanged) changed.current(update.state.doc.toString())
        }),
      ],
    })
    editor.current = view
    return () => view.destroy()
  }, [names, language, oneLine, id])
  useEffect(() => {
    first.current = value
    const view = editor.current
    if (!view || view.state.doc.toString() === value) return
    view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: value } })
  }, [value])
  return (
    <div className="mt-3">
      <div className="flex items-baseline justify-between gap-3 text-note">
        <span id={`${id}-label`} className="text-ink-2">
          {label}
        </span>
        <Insert known={known} into={editor} label={label} />
      </div>
      <div
        ref={holder}
        data-faulty={fault ? true : undefined}
        className="border-b border-ink-2 bg-ground focus-within:outline-2 focus-within:outline-act data-faulty:border-need"
      />
      <p id={`${id}-note`} role={fault ? 'alert' : undefined} className="text-note text-need">
        {fault && told(fault.words)}
        {fault && fault.to > 0 && (
          <>
            {' '}
            <button type="button" className="link" onClick={() => select(editor.current, fault)}>
              {say.messages.goThere}
            </button>
          </>
        )}
      </p>
    </div>
  )
}

function select(view: EditorView | null, { from, to }: Schemas['Fault']) {
  if (!view) return
  const end = view.state.doc.length
  view.dispatch({ selection: { anchor: Math.min(from, end), head: Math.min(to, end) }, scrollIntoView: true })
  view.focus()
}

/** Puts a piece where one is; words that are selected depend on a condition from then on. */
function insert(view: EditorView | null, piece: Piece) {
  if (!view) return
  const { from, to } = view.state.selection.main
  const { text, at } = inserted(piece, view.state.sliceDoc(from, to))
  view.dispatch({ changes: { from, to, insert: text }, selection: { anchor: from + at }, userEvent: 'input' })
  view.focus()
}

function Insert({
  known,
  into,
  label,
}: {
  known: Props['known']
  into: React.RefObject<EditorView | null>
  label: string
}) {
  const all = pieces(known)
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="link" aria-label={say.messages.insertInto(label)}>
        {say.messages.insert}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          aria-label={say.messages.insertInto(label)}
          className="z-20 max-h-80 min-w-52 overflow-y-auto border-t-3 border-act bg-sheet py-1.5 outline outline-rule-strong"
          onCloseAutoFocus={(event) => {
            event.preventDefault()
            into.current?.focus()
          }}
        >
          {all.map((piece) => (
            <DropdownMenu.Item
              key={`${piece.sign}${piece.name}`}
              className="cursor-pointer px-4 py-1 text-note text-ink outline-none data-[highlighted]:bg-act-soft data-[highlighted]:text-act"
              onSelect={() => insert(into.current, piece)}
            >
              {piece.words}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}

function setUp(known: Props['known'], oneLine: boolean) {
  return [
    history(),
    keymap.of([...completionKeymap, ...historyKeymap, ...defaultKeymap]),
    EditorState.phrases.of({ Completions: say.messages.insert }),
    EditorView.lineWrapping,
    EditorView.cspNonce.of(getNonce() ?? ''),
    look,
    marks(known),
    autocompletion({ override: [(context) => complete(context, known)], icons: false }),
    oneLine ? EditorState.transactionFilter.of((change) => (change.newDoc.lines > 1 ? [] : change)) : [],
    oneLine ? [] : EditorView.theme({ '.cm-content': { minHeight: '4.6rem' } }),
  ]
}

/** What "/" offers, at the beginning of a word. */
function complete(context: CompletionContext, known: Props['known']) {
  const typed = context.matchBefore(/\/[\p{L}\d’' ]*/u)
  const before = typed && context.state.sliceDoc(typed.from - 1, typed.from)
  if (!typed || (before && !/\s/.test(before))) return null
  return {
    from: typed.from + 1,
    options: pieces(known).map((piece) => ({
      label: piece.words,
      apply: (view: EditorView, _: unknown, from: number, to: number) => {
        const { text, at } = inserted(piece, '')
        view.dispatch({
          changes: { from: from - 1, to, insert: text },
          selection: { anchor: from - 1 + at },
          userEvent: 'input',
        })
      },
    })),
    validFor: /^[\p{L}\d’' ]*$/u,
  }
}

/** A fact, or where a passage begins or ends, as a marked word. */
class Mark extends WidgetType {
  constructor(readonly piece: Piece) {
    super()
  }
  override eq(other: Mark) {
    return other.piece.words === this.piece.words && other.piece.sign === this.piece.sign
  }
  override toDOM() {
    const mark = document.createElement('span')
    mark.className = `cm-piece ${this.piece.sign ? 'cm-passage' : ''} ${this.piece.known ? '' : 'cm-unknown'}`
    mark.textContent = this.piece.words
    return mark
  }
}

function marks(known: Props['known']) {
  const matcher = new MatchDecorator({
    regexp: /\{\{([^{}\n]*)\}\}/g,
    decoration: ([, inner = '']) => Decoration.replace({ widget: new Mark(pieceOf(inner, known)) }),
  })
  return ViewPlugin.fromClass(
    class {
      pieces
      constructor(view: EditorView) {
        this.pieces = matcher.createDeco(view)
      }
      update(update: ViewUpdate) {
        this.pieces = matcher.updateDeco(update, this.pieces)
      }
    },
    {
      decorations: (one) => one.pieces,
      provide: (plugin) => EditorView.atomicRanges.of((view) => view.plugin(plugin)?.pieces ?? Decoration.none),
    },
  )
}

const look = EditorView.theme({
  '&': { fontSize: 'inherit' },
  '&.cm-focused': { outline: 'none' },
  '.cm-scroller': { fontFamily: 'inherit', lineHeight: '1.7' },
  '.cm-content': { padding: '0.35rem 0', caretColor: 'var(--color-ink)', outline: 'none' },
  '.cm-line': { padding: '0 0.5rem' },
  '.cm-piece': { background: 'var(--color-act-soft)', color: 'var(--color-ink)', padding: '0.05em 0.3em' },
  '.cm-passage': {
    background: 'none',
    color: 'var(--color-ink-2)',
    outline: '1px dashed var(--color-hatch)',
    outlineOffset: '-1px',
    fontSize: '0.9em',
  },
  '.cm-unknown': { background: 'var(--color-need-soft)', color: 'var(--color-need)' },
  '.cm-tooltip': {
    background: 'var(--color-sheet)',
    border: '1px solid var(--color-rule-strong)',
    borderTop: '3px solid var(--color-act)',
  },
  '.cm-tooltip.cm-tooltip-autocomplete > ul': { fontFamily: 'inherit', maxHeight: '15rem' },
  '.cm-tooltip.cm-tooltip-autocomplete > ul > li': { padding: '0.25rem 1rem' },
  '.cm-tooltip.cm-tooltip-autocomplete > ul > li[aria-selected]': {
    background: 'var(--color-act-soft)',
    color: 'var(--color-act)',
  },
  '.cm-completionMatchedText': { textDecoration: 'none', fontWeight: '600' },
})
