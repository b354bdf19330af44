import { type APIRequestContext, expect } from '@playwright/test'
import { inbox, phones, worker } from './ports.ts'
import { book, chooseDay, expectAccessible, fillDetails, mailTo, ofType, openPage, otherWindow, signInAs } from './steps.ts'
import { test } from './turned.ts'

/** What somebody answers a mail with: in words, or as their calendar program or the server of their mailbox does. */
async function answer(request: APIRequestContext, path: string, form: Record<string, string>) {
  const answered = await request.post(`${inbox}${path}/answer`, { form })
  expect(await answered.text()).toContain('Handed over')
}

const client = (name: string) => ({ name, mail: `${name.toLowerCase()}-${worker}@answers.example` })

test('a client answers the invitation in their calendar, and the host decides with one press', async ({ page, request, context }) => {
  const declines = client('Thimble')
  await book(page, 'case-review', declines, 5, -1)
  const [invitation] = await mailTo(request, declines.mail, 1)
  await answer(request, invitation?.path ?? '', { as: 'declined', text: 'The roof leaks, we are shut.' })

  const host = await otherWindow(context)
  await signInAs(host, 'Maren Achterberg')
  await host.goto('/')
  const declined = host.getByText('Thimble declined the invitation. “The roof leaks, we are shut.”')
  await expect(declined).toBeVisible()
  await expectAccessible(host)
  await declined.locator('..').getByRole('button', { name: 'Keep the meeting' }).click()
  await expect(declined).toBeHidden()

  await answer(request, invitation?.path ?? '', { as: 'wrote', text: 'Is there a lift?' })
  await expect.poll(async () => (await mailTo(request, 'maren@quillmere.example', 1)).map((mail) => mail.subject).join()).toContain(`${declines.name}: Re: `)
})

test('mail that comes back is told of until somebody says that it arrives again', async ({ page, request, context }) => {
  const gone = client('Pewter')
  await book(page, 'case-review', gone, 6, -1)
  const [mail] = await mailTo(request, gone.mail, 1)
  await answer(request, mail?.path ?? '', { as: 'failed' })
  const host = await otherWindow(context)
  await signInAs(host, 'Ines Valadares')
  await host.goto(`/clients/${gone.mail}`)
  await expect(host.getByText(/Mail to this address comes back, since/)).toBeVisible()
  await expect(host.getByText('550 5.1.1 There is no such mailbox here')).toBeVisible()
  await expectAccessible(host)
  await host.getByRole('button', { name: 'It arrives again' }).click()
  await expect(host.getByText(/Mail to this address comes back/)).toBeHidden()
})

test('a host chooses what they are told of, and gets their day each morning', async ({ page }) => {
  await signInAs(page, 'Torvald Brekke')
  await page.goto('/account')
  const room = page.getByRole('checkbox', { name: 'The video room is ready: Mail' })
  await room.uncheck()
  await page.getByRole('checkbox', { name: /My day, each morning/ }).check()
  await page.getByRole('textbox', { name: 'Time of the mail in the morning' }).fill('quarter to')
  await expect(page.getByText('Give the time of day as hours and minutes, like 07:30.')).toBeVisible()
  await page.getByRole('textbox', { name: 'Time of the mail in the morning' }).fill('6:45')
  await expect(page.getByText('Give the time of day')).toBeHidden()
  await expectAccessible(page)
  await page.reload()
  await expect(room).not.toBeChecked()
  await expect(page.getByRole('textbox', { name: 'Time of the mail in the morning' })).toHaveValue('06:45')
})

test('one press ends the mail after meetings, and another lets it come again', async ({ page }) => {
  const link = await book(page, 'case-review', client('Bobbin'), 7, -1)
  await page.goto(`${link}?answer=leave`)
  await page.getByRole('button', { name: 'No more of it' }).click()
  await expect(page.getByText('You get no more mail after your meetings.')).toBeVisible()
  await expectAccessible(page)
  await page.goto(link)
  await page.getByRole('button', { name: 'Send it again' }).click()
  await expect(page.getByText('You get no more mail after your meetings.')).toBeHidden()
})

/** The newest text message to a number, as the stand-in's page shows it. */
async function codeTo(request: APIRequestContext, phone: string): Promise<string> {
  let code = ''
  await expect
    .poll(async () => {
      const page = await (await request.get(phones)).text()
      code = new RegExp(`${phone.replace('+', '(?:\\+|&#43;)')}[^]*?\\b(\\d{6}) is your code`).exec(page)?.[1] ?? ''
      return code
    })
    .not.toBe('')
  return code
}

test('a client proves who they are by a code that comes as a text message', async ({ page, request, context }) => {
  const host = await otherWindow(context)
  await signInAs(host, 'Ines Valadares')
  await host.goto('/types')
  await ofType(host, 'Daylight walk-through', 'Booking page')
  await host.getByLabel('What a client proves first').selectOption({ label: 'confirms a code sent as a text message' })
  await host.getByRole('button', { name: 'Save changes' }).click()
  await expect(host.getByRole('button', { name: 'Save changes' })).toBeHidden()

  const phone = `+4479460002${10 + worker}`
  await openPage(page, 'daylight')
  await (await chooseDay(page, 6)).first().click()
  await fillDetails(page, 'Tassel', `tassel-${worker}@answers.example`)
  await page.getByRole('button', { name: /^Book \d/ }).click()
  await expect(page.getByText('Enter your mobile number: a code comes there.')).toBeVisible()
  await page.getByLabel('Your mobile number, for the code').fill(phone)
  await page.getByRole('button', { name: /^Book \d/ }).click()
  await expect(page.getByText(`A 6-digit code is on its way to ${phone}`)).toBeVisible()
  await expectAccessible(page)
  await page.getByLabel('The code').fill(await codeTo(request, phone))
  await page.getByRole('button', { name: 'Enter the code' }).click()
  await expect(page.getByRole('heading', { name: 'Your meeting is booked.' })).toBeVisible()

  await host.getByLabel('What a client proves first').selectOption({ label: 'books without verification' })
  await host.getByRole('button', { name: 'Save changes' }).click()
  await expect(host.getByRole('button', { name: 'Save changes' })).toBeHidden()
})

test('a host proves their number, and news of their meetings come there', async ({ page, request, context }) => {
  const phone = `+4479460003${10 + worker}`
  await signInAs(page, 'Siew Lin Dao')
  await page.goto('/account')
  const booked = page.getByRole('checkbox', { name: /^A meeting was booked: Text message$/ })
  await expect(booked).toBeDisabled()
  await page.getByLabel('To get text messages, enter your mobile number').fill(phone)
  await page.getByRole('button', { name: 'Send a code there' }).click()
  await page.getByLabel(`The code that was sent to ${phone}`).fill('000000')
  await page.getByRole('button', { name: 'Enter it' }).click()
  await expect(page.getByText(`This is not the code that was sent to ${phone}.`)).toBeVisible()
  await page.getByLabel(`The code that was sent to ${phone}`).fill(await codeTo(request, phone))
  await page.getByRole('button', { name: 'Enter it' }).click()
  await expect(page.getByText(`Text messages go to ${phone}`)).toBeVisible()
  await booked.check()
  await expectAccessible(page)
  await page.reload()
  await expect(booked).toBeChecked()
})
