import { expect, type Page } from '@playwright/test'
import { agree, chooseDay, comingMonday, daysAfter, expectAccessible, fillDetails, mailTo, ofType, openPage, otherWindow, signInAs, times } from './steps.ts'
import { test } from './turned.ts'

/** Asks for a site visit on the nth open day, and returns the path of the request's page. */
async function ask(client: Page, name: string, mail: string, day: number, type = 'site-visit'): Promise<string> {
  await openPage(client, type)
  await (await chooseDay(client, day)).first().click()
  await fillDetails(client, name, mail)
  await client.getByLabel('The address where we meet').fill('Quay 4')
  await client.getByLabel('No', { exact: true }).check()
  await client.getByLabel('Our travel is paid for.').check()
  await client.getByRole('button', { name: /^Request \d/ }).click()
  await expect(client.getByRole('heading', { name: 'Your request has arrived.' })).toBeVisible()
  return new URL(client.url()).pathname
}

test('what clients ask for is approved, declined, or answered with other times', async ({ page, context, request }) => {
  const client = await otherWindow(context, true)
  const first = await ask(client, 'Marstal Ship House', 'post@marstal.example', 3)
  await expectAccessible(client)
  await expect(client.getByText('The time is kept for you until')).toBeVisible()
  await signInAs(page, 'Torvald Brekke')
  const asked = page.getByRole('article', { name: 'Request of Marstal Ship House' })
  await expect(asked).toContainText('First booking.')
  await expect(asked).toContainText('Is it about a loan? no.')
  await expectAccessible(page)

  // Other times: one by pressing on a ribbon's tick, one by keys. The client takes one and is booked.
  await asked.getByRole('button', { name: 'Propose other times …' }).click()
  const sheet = page.getByRole('dialog')
  await sheet.getByLabel('Day', { exact: true }).fill(daysAfter(comingMonday(), 2))
  await sheet.getByLabel('Time', { exact: true }).fill('19:00')
  await sheet.getByRole('button', { name: 'Add this time' }).click()
  const ribbon = sheet.getByRole('img', { name: /picked nothing/ }).first()
  const box = await ribbon.boundingBox()
  if (!box) throw new Error('no ribbon')
  await page.mouse.click(box.x + box.width * 0.8, box.y + box.height / 2)
  await expect(sheet.getByRole('list', { name: 'Picked times' }).getByRole('listitem')).toHaveCount(2)
  await sheet.getByLabel('Message to them').fill('After dark is better.')
  await expectAccessible(page)
  await sheet.getByRole('button', { name: 'Propose these 2 times' }).click()
  await expect(asked).toContainText('You proposed')
  expect((await mailTo(request, 'post@marstal.example', 2))[0]?.subject).toMatch(/^Other times/)
  await client.goto(first)
  await expect(client.getByText('“After dark is better.”')).toBeVisible()
  await expectAccessible(client)
  await client.getByRole('button', { name: /^Take Wednesday .*, 14:00$/ }).click() // 19:00 in Oslo
  await expect(client.getByText('Quay 4')).toBeVisible()
  await expect(client.getByRole('heading', { name: 'Your meeting is booked.' })).toBeVisible()
  await page.reload()
  await expect(asked).toHaveCount(0)

  const second = await ask(client, 'Skagen Sail Loft', 'hej@sailloft.example', 5)
  await page.reload()
  await page.getByRole('article', { name: 'Request of Skagen Sail Loft' }).getByRole('button', { name: 'Decline' }).click()
  await page.getByLabel('Message to them').fill('The lamps are away.')
  await agree(page, 'Decline')
  await expect(page.getByRole('article', { name: 'Request of Skagen Sail Loft' })).toHaveCount(0)
  await client.goto(second)
  await expect(client.getByRole('heading', { name: 'This request was declined.' })).toBeVisible()
  await expect(client.getByText('The lamps are away.')).toBeVisible()

  // A coordinator decides for colleagues too.
  const coordinator = await otherWindow(context)
  await signInAs(coordinator, 'Ines Valadares')
  const ribe = coordinator.getByRole('article', { name: 'Request of Ribe Tide House' })
  await expect(ribe).toContainText('with Torvald Brekke')
  await ribe.getByRole('button', { name: 'Approve' }).click()
  await expect(ribe).toHaveCount(0)
  expect((await mailTo(request, 'post@ribetide.example', 2))[0]?.subject).toBe('Site visit with Torvald Brekke')
})

test('several ask for one time; it is the one’s who is approved, and the others’ hosts see that it is gone', async ({ page, context, request }) => {
  await signInAs(page, 'Torvald Brekke')
  await page.goto('/types')
  await ofType(page, 'Site visit', 'Copy')
  await ofType(page, 'Copy of Site visit', 'Booking page')
  await page.getByLabel('It is', { exact: true }).selectOption('link')
  await page.getByLabel('Whose is a time that was asked for').selectOption('open for others to ask for too')
  await page.getByRole('button', { name: /^Save/ }).click()
  await expect(page.getByRole('button', { name: /^Save/ })).toHaveCount(0)
  const path = (await page.getByRole('link', { name: 'View as client' }).getAttribute('href')) ?? ''

  const client = await otherWindow(context, true)
  const visits: string[] = []
  for (const [name, mail] of [['Thurø Rope Walk', 'reb@thuro.example'], ['Svendborg Boat Yard', 'vaerft@svendborg.example']] as const) {
    visits.push(await ask(client, name, mail, 6, path.split('/').at(-1)))
    await expect(client.getByText('Others can ask for this time too.')).toBeVisible()
  }
  expect((await mailTo(request, 'reb@thuro.example', 1))[0]?.subject).toMatch(/^Requested/)
  await page.goto('/')
  const walk = page.getByRole('article', { name: 'Request of Thurø Rope Walk' })
  const yard = page.getByRole('article', { name: 'Request of Svendborg Boat Yard' })
  await expect(walk).toContainText(/Its time is kept for nobody; decide until .*\. One other asks for the same time\./)
  await expectAccessible(page)
  await yard.getByRole('button', { name: 'Approve' }).click()
  await expect(yard).toHaveCount(0)
  await expect(walk).toContainText('Another booking has this time meanwhile.')
  await expect(walk.getByRole('button', { name: 'Approve' })).toBeDisabled()
  await walk.getByRole('button', { name: 'Decline' }).click()
  await agree(page, 'Decline')
  await expect(walk).toHaveCount(0)
  await client.goto(visits[0] ?? '')
  await expect(client.getByRole('heading', { name: 'This request was declined.' })).toBeVisible()
})

test('shortly before the meeting its client says that they come, and the host sees it', async ({ page, context }) => {
  await signInAs(page, 'Siew Lin Dao')
  const { types: [type] } = await (await page.request.get('/api/types')).json()
  const tomorrow = daysAfter(new Date().toISOString().slice(0, 10), 1)
  const offer = { type: type.id, starts: [{ date: tomorrow, minute: 21 * 60 + 7 }], until: tomorrow }
  const { path } = await (await page.request.post('/api/one-offs', { data: offer })).json()
  const client = await otherWindow(context, true)
  await client.goto(path)
  await times(client).first().click()
  await fillDetails(client, 'Bergen Net Loft', 'net@loft.example')
  await client.getByRole('button', { name: /^Book \d/ }).click()
  await expect(client.getByRole('heading', { name: 'Your meeting is booked.' })).toBeVisible()
  await expect(client.getByRole('button', { name: 'I will be there' })).toHaveCount(0)

  await client.reload()
  await client.getByRole('button', { name: 'I will be there' }).click()
  await expect(client.getByText('You have said that you will be there.')).toBeVisible()
  await expect(client.getByRole('button', { name: 'I will be there' })).toHaveCount(0)
  await expectAccessible(client)
  await page.goto('/')
  await expect(page.getByRole('article', { name: /Bergen Net Loft/ })).toContainText('says they come')
  await expect(page.getByText('Says they come: Bergen Net Loft')).toBeVisible()
})
