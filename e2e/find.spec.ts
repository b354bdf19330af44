import { expect } from '@playwright/test'
import { expectAccessible, find, signInAs, signOut } from './steps.ts'
import { test } from './turned.ts'

test('anything is found by a few letters, by keys alone', async ({ page }) => {
  await signInAs(page, 'Ines Valadares')
  const field = page.getByRole('combobox', { name: 'Find anything' })
  const option = (name: RegExp) => page.getByRole('option', { name })
  await find(page, 'ria mus')
  await expect(option(/^Museu da Ria, .*; Clients$/)).toBeVisible()
  await expect(option(/^Museu da Ria, .*Gallery light survey; Bookings$/).first()).toBeVisible()
  await expectAccessible(page)
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('dialog', { name: 'Museu da Ria' })).toContainText('Gallery light survey')

  await page.keyboard.press('Control+k')
  await field.fill('4 dec')
  await expect(option(/^Friday 4 December|^\w+ 4 December/).first()).toBeVisible()
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await expect(page).toHaveURL(/\/board\?of=all&from=\d{4}-12-04$/)

  await find(page, 'maren')
  await expect(option(/^Maren Achterberg; Colleagues$/)).toHaveAttribute('aria-selected', 'true')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('listitem').filter({ has: page.getByRole('heading', { name: 'Maren Achterberg' }) })).toBeFocused()

  await find(page, 'ill')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('dialog', { name: 'You are away' })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toHaveCount(0)

  await find(page, 'nothing is called so')
  await expect(page.getByText('Nothing you may see matches that.')).toBeVisible()
  await page.keyboard.press('Escape')

  // A member doesn’t find the clients of others.
  await signOut(page)
  await page.getByRole('button', { name: 'Callum Whitlock' }).click()
  await page.getByRole('button', { name: 'Find' }).click()
  await page.keyboard.type('ria mus')
  await expect(page.getByText('Nothing you may see matches that.')).toBeVisible()
})
