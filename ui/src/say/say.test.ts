import ts from 'typescript'
import { describe, expect, it } from 'vitest'
import { de } from './de'
import { en } from './en'

/** Every plain text, by where it stands. */
function plain(say: object, at = ''): [at: string, text: string][] {
  return Object.entries(say).flatMap(([key, value]) => {
    if (typeof value === 'string') return [[at + key, value] as [string, string]]
    return typeof value === 'object' ? plain(value, `${at}${key}.`) : []
  })
}

const sameInBoth = ['Banner', 'Logo', 'Name', 'Plan', 'Teams', 'ganz', '12', '24']

it('says nothing in English where German is spoken', () => {
  const { dates: _, ...english } = en
  const texts = new Map(plain(english))
  const same = plain(de).filter(([at, text]) => texts.get(at) === text && !sameInBoth.includes(text))
  expect(same).toEqual([])
})

describe('whatever a view says stands in say', () => {
  const views = import.meta.glob<string>(['../host/**/*.tsx', '../kit/*.tsx', '../edit/*.tsx', '!../**/*.test.tsx'], {
    query: '?raw',
    import: 'default',
    eager: true,
  })
  it.each(Object.entries(views))('%s', (path, source) => {
    expect(spokenIn(ts.createSourceFile(path, source, ts.ScriptTarget.Latest, true))).toEqual([])
  })
})

const heard = ['aria-label', 'title', 'placeholder', 'alt', 'label', 'name', 'words', 'hint', 'note', 'problem']

/** Texts between tags, and in attributes that are read. */
function spokenIn(node: ts.Node): string[] {
  const own = ts.isJsxText(node) ? node.text.trim() : ts.isJsxAttribute(node) ? heardIn(node) : ''
  const texts = /\p{L}|[“„]/u.test(own) ? [own] : []
  ts.forEachChild(node, (child) => void texts.push(...spokenIn(child)))
  return texts
}

/** An attribute's text; the name of an HTML element is none, nor is an address that shows how one looks. */
function heardIn({ name, initializer, parent }: ts.JsxAttribute): string {
  const element = parent.parent.tagName.getText()
  const silent = !heard.includes(name.getText()) || (name.getText() === 'name' && /^[a-z]/.test(element))
  if (silent || !initializer || !ts.isStringLiteral(initializer)) return ''
  return initializer.text.startsWith('https://') ? '' : initializer.text
}
