import { expect } from '@playwright/test'
import { rooms } from './ports.ts'
import { chooseDay, expectAccessible, fillDetails, openPage, otherWindow, signInAs } from './steps.ts'
import { test } from './turned.ts'

test('video rooms are away: the client is told what is true, the host asks for the room, and it is there', async ({ page, context, request }) => {
  await request.post(`${rooms}/mood`, { form: { mood: 'away' } })
  const client = await otherWindow(context)
  const trouble = page.getByText(/Video rooms can.t be made at the moment/)
  try {
    await openPage(client, 'first-conversation')
    await (await chooseDay(client, 3)).first().click()
    await fillDetails(client, 'Boathouse Archive', 'keys@boathouse.example')
    await client.getByRole('button', { name: /^Book \d/ }).click()
    await expect(client.getByRole('heading', { name: 'Your meeting is booked.' })).toBeVisible()
    await expect(client.getByText('The room could not be made yet. You get its link by mail')).toBeVisible()
    await expectAccessible(client)

    await signInAs(page, 'Ines Valadares')
    await expect(trouble).toBeVisible()
    await expect(page.getByText(/For a room one meeting waits, that with Boathouse Archive/)).toBeVisible()
    await page.getByRole('button', { name: 'Make the room now' }).click()
    await expect(trouble).toBeVisible() // it is away still
    await expectAccessible(page)
  } finally {
    await request.post(`${rooms}/mood`, { form: { mood: '' } })
  }
  await page.getByRole('button', { name: 'Make the room now' }).click()
  await expect(trouble).toHaveCount(0)
  await client.reload()
  await expect(client.getByRole('link', { name: /\/r\// })).toBeVisible()
})
