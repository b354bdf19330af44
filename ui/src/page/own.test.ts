import { describe, expect, it } from 'vitest'
import { busyIn, overlaps } from './own'

const from = new Date('1997-08-01T00:00:00Z')
const to = new Date('1998-01-01T00:00:00Z')

function calendar(...lines: string[]): string {
  return ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//made up//EN', ...lines, 'END:VCALENDAR', ''].join('\r\n')
}

function event(...lines: string[]): string[] {
  return ['BEGIN:VEVENT', 'UID:a', 'DTSTAMP:19970101T000000Z', ...lines, 'END:VEVENT']
}

async function days(...lines: string[]): Promise<string[]> {
  return (await busyIn(calendar(...lines), from, to)).map((b) => new Date(b.from).toISOString().slice(0, 16))
}

describe("the client's own calendar", () => {
  it('repeats as RFC 5545, 3.8.5.3 has it, without what EXDATE takes out', async () => {
    // "Every other week on Monday, Wednesday, and Friday until December 24, 1997", in UTC here.
    const rule = 'RRULE:FREQ=WEEKLY;INTERVAL=2;UNTIL=19971224T000000Z;WKST=SU;BYDAY=MO,WE,FR'
    const found = await days(
      ...event('DTSTART:19970901T130000Z', 'DTEND:19970901T140000Z', rule, 'EXDATE:19970903T130000Z'),
    )
    expect(found.slice(0, 5)).toEqual(['09-01', '09-05', '09-15', '09-17', '09-19'].map((day) => `1997-${day}T13:00`))
    expect(found.at(-1)).toBe('1997-12-22T13:00')
  })

  it('moves and drops single occurrences, and leaves out what blocks nothing', async () => {
    const weekly = event('DTSTART:19970901T130000Z', 'DTEND:19970901T140000Z', 'RRULE:FREQ=WEEKLY;COUNT=3')
    const moved = event('RECURRENCE-ID:19970908T130000Z', 'DTSTART:19970909T090000Z', 'DTEND:19970909T100000Z')
    const dropped = event(
      'RECURRENCE-ID:19970915T130000Z',
      'DTSTART:19970915T130000Z',
      'DTEND:19970915T140000Z',
      'STATUS:CANCELLED',
    )
    const free = event('DTSTART:19970910T090000Z', 'DTEND:19970910T100000Z', 'TRANSP:TRANSPARENT').map((l) =>
      l.replace('UID:a', 'UID:b'),
    )
    expect(await days(...weekly, ...moved, ...dropped, ...free)).toEqual(['1997-09-01T13:00', '1997-09-09T09:00'])
  })

  it('ends even where a rule never does, and refuses what is no calendar', async () => {
    expect(
      (await days(...event('DTSTART:19970801T000000Z', 'DTEND:19970801T000001Z', 'RRULE:FREQ=SECONDLY'))).length,
    ).toBe(2000)
    await expect(busyIn('<html>', from, to)).rejects.toThrow()
  })

  it('lies over a time only if they share any of it', () => {
    const busy = [{ from: Date.parse('1997-09-01T13:00Z'), to: Date.parse('1997-09-01T14:00Z') }]
    expect(overlaps(busy, new Date('1997-09-01T12:30Z'), 30)).toBe(false)
    expect(overlaps(busy, new Date('1997-09-01T12:31Z'), 30)).toBe(true)
    expect(overlaps(busy, new Date('1997-09-01T14:00Z'), 30)).toBe(false)
  })
})

describe('a large calendar of the client’s', () => {
  it('is read in time that grows with its size: 5,000 events with 200 series', async () => {
    const lines: string[] = []
    for (let i = 0; i < 4800; i++) {
      const at = new Date(Date.UTC(1997, 7, 1, 8) + i * 40 * 60_000).toISOString().replace(/[-:]|\.000/g, '')
      lines.push(...event(`DTSTART:${at}`, 'DURATION:PT30M').map((line) => line.replace('UID:a', `UID:one-${i}`)))
    }
    for (let i = 0; i < 200; i++) {
      const weekly = [`DTSTART:199${1 + (i % 6)}0107T${10 + (i % 9)}0000Z`, 'DURATION:PT30M', 'RRULE:FREQ=WEEKLY']
      const moved = ['RECURRENCE-ID:19970805T100000Z', 'DTSTART:19970806T100000Z', 'DURATION:PT30M']
      for (const part of [weekly, moved])
        lines.push(...event(...part).map((line) => line.replace('UID:a', `UID:series-${i}`)))
    }
    const found = await busyIn(calendar(...lines), from, to)
    expect(found.length).toBeGreaterThan(7000)
  }, 10_000) // bounded, not timed: quadratic, it took minutes

  it('leaves out what its owner has declined, and what is marked free otherwise', async () => {
    const invited = (state: string) => `ATTENDEE;PARTSTAT=${state}:mailto:Keeper@harbour.example`
    const at = (hour: string) => [`DTSTART:19970902T${hour}0000Z`, 'DURATION:PT1H']
    const named = (uid: string, lines: string[]) => event(...lines).map((line) => line.replace('UID:a', `UID:${uid}`))
    const found = await days(
      ...named('1', [...at('09'), invited('ACCEPTED'), 'ATTENDEE;PARTSTAT=DECLINED:mailto:other@x.example']),
      ...named('2', [...at('11'), invited('DECLINED')]),
      ...named('3', [...at('13'), 'X-MICROSOFT-CDO-BUSYSTATUS:FREE']),
    )
    expect(found).toEqual(['1997-09-02T09:00'])
  })
})
