/** What changed on a sheet: asked from its table, looked at in four ways, an issue raised from it. */
import { expect, test } from '@playwright/test';
import { signIn } from './steps.ts';

test('a reviewer sees what changed on the new revision of a plan, also what nobody asked for', async ({ browser }) => {
  const maren = await signIn(browser, 'Maren Tolvik');
  await maren.getByRole('row', { name: /Orrin Point Lifeboat/ }).click();
  await expect(maren.getByTestId('register')).toBeVisible();
  const place = new URL(maren.url()).pathname.replace(/\/register.*/, '');
  await maren.goto(`${place}/sheets`);
  await maren.getByRole('link', { name: /ORP-TVA-CB-00-D-A-0111/ }).click();
  await expect(maren.locator('[data-marks]')).toBeVisible();
  const list = maren.getByRole('complementary', { name: 'Changes' });
  const first = list.getByRole('button', { name: /Moved by 0\.60 mm/ });
  const all = list.getByRole('listitem').filter({ has: maren.locator('.change') });

  await test.step('the table leads to the changes: a wall that went by a hair, and the notes', async () => {
    await maren.getByRole('link', { name: 'Changes', exact: true }).click();
    await expect(list.getByRole('status')).toHaveText('2 asked for and found · 1 missing · 2 not asked for');
    await expect(all).toHaveCount(4);
    await expect(first).toBeVisible();
    await expect(list).toContainText('Added “3 Stair turned round since P01.”');
    await expect(list).toContainText('P01 → P02');
    await expect(maren.locator('svg.overlay .frame')).toHaveCount(4);
  });

  await test.step('a kind is left out and taken in again; the keyboard goes from one to the next', async () => {
    await list.getByRole('button', { name: '→ 2 moved', exact: true }).click();
    await expect(first).toBeHidden();
    await expect(maren.locator('svg.overlay .frame')).toHaveCount(2);
    await list.getByRole('button', { name: '→ 2 moved', exact: true }).click();
    await maren.keyboard.press('ArrowDown');
    await maren.keyboard.press('ArrowDown');
    await expect(first).toHaveAttribute('aria-current', 'true');
    await expect(maren).toHaveURL(/change=2/);
  });

  await test.step('side by side, by a curtain and in turns; the address keeps all of it', async () => {
    await maren.getByRole('button', { name: 'Side by side' }).click();
    await expect(maren.locator('[data-surface=sheet]')).toHaveCount(2);
    await maren.getByRole('button', { name: 'Curtain' }).click();
    await expect(maren.getByRole('slider', { name: /Curtain/ })).toBeVisible();
    await maren.reload();
    await expect(first).toHaveAttribute('aria-current', 'true');
    await expect(maren.getByRole('slider', { name: /Curtain/ })).toBeVisible();
    await maren.getByRole('button', { name: 'In turns' }).click();
    await expect(maren.locator('[data-surface=sheet]')).toHaveCount(2);
    await expect(maren.locator('[data-surface=sheet]')).toHaveCount(1);
  });

  await test.step('a region is left out, and the address keeps that too', async () => {
    await maren.getByRole('button', { name: 'On each other' }).click();
    await maren.getByRole('button', { name: 'Leave a region out' }).click();
    const frame = (await maren.locator('svg.overlay .frame.chosen rect').boundingBox())!;
    await maren.mouse.move(frame.x - 8, frame.y - 8);
    await maren.mouse.down();
    await maren.mouse.move(frame.x + frame.width + 8, frame.y + frame.height + 8, { steps: 4 });
    await maren.mouse.up();
    await expect(all).toHaveCount(3);
    await maren.reload();
    await expect(list).toContainText('One region is left out');
    await list.getByRole('button', { name: 'Take in again' }).click();
    await expect(all).toHaveCount(4);
  });
});
