/** A plan and its model: linked once, asked all day. */
import { expect, test } from '@playwright/test';
import { signIn } from './steps.ts';

test('a coordinator links a plan with its model and asks it', async ({ browser }) => {
  const maren = await signIn(browser, 'Maren Tolvik');
  await maren.getByRole('row', { name: /Orrin Point Lifeboat/ }).click();
  await expect(maren.getByTestId('register')).toBeVisible();
  const place = new URL(maren.url()).pathname.replace(/\/register.*/, '');
  await maren.goto(`${place}/sheets`);
  await maren.getByRole('link', { name: /ORP-TVA-ZZ-00-D-A-0101/ }).click();
  const table = maren.locator('[data-marks]');
  await expect(table).toBeVisible();
  const panel = maren.getByRole('region', { name: 'Link with a model' });
  const openPanel = async (): Promise<void> => {
    await maren.getByRole('button', { name: 'Model', exact: true }).click();
    await maren.getByText('Link with a model …').click();
    await panel.getByLabel('Model').click();
    await maren.getByRole('option', { name: 'Architectural model' }).click();
    await expect(panel.getByRole('status')).toContainText('of the walls lie on lines of the sheet');
  };

  await test.step('by two points: the sheet and the storey take turns', async () => {
    await openPanel();
    const [sheet, storey] = [
      (await table.boundingBox())!,
      (await panel.getByRole('img', { name: 'The storey' }).boundingBox())!,
    ];
    const [left, right] = [sheet.x + sheet.width * 0.6, sheet.x + sheet.width * 0.85];
    await maren.mouse.click(left, sheet.y + sheet.height * 0.4);
    await expect(panel.getByRole('status')).toContainText('the same point here');
    await maren.mouse.click(storey.x + 20, storey.y + storey.height / 2);
    await expect(panel.getByRole('status')).toContainText('a second point');
    await maren.mouse.click(right, sheet.y + sheet.height * 0.4);
    await maren.mouse.click(storey.x + storey.width - 20, storey.y + storey.height / 2);
    await expect(panel.getByRole('status')).toContainText('By 2 points: 0 mm off');
    await panel.getByRole('button', { name: 'Begin anew' }).click();
  });

  await test.step('the proposal from the walls is looked at and taken', async () => {
    await expect(panel.getByRole('status')).toContainText('100 % of the walls');
    await expect(maren.locator('svg.overlay path')).toBeAttached();
    await panel.getByRole('button', { name: 'Take this link' }).click();
    await expect(panel).toBeHidden();
    await expect(maren.getByRole('button', { name: '00 Ground' })).toBeVisible();
  });

  await test.step('a wall of the plan has its properties, and is found in the scene', async () => {
    await maren.getByRole('button', { name: 'Model', exact: true }).click();
    const { x, y, width, height } = (await table.boundingBox())!;
    const card = maren.getByRole('region', { name: 'In the model' });
    const heading = card.getByRole('heading').first();
    const nothing = card.getByText('nothing at this place');
    // Through the rooms, until a partition is met.
    for (let at = x + width * 0.6; at < x + width * 0.85; at += 6) {
      await maren.mouse.click(at, y + height * 0.4);
      await expect(heading.or(nothing)).toBeVisible();
      if ((await heading.count()) && /Partition wall/.test(await heading.innerText())) break;
    }
    await expect(heading).toContainText('Partition wall');
    await expect(card).toContainText('FireRating');
    const name = await heading.innerText();
    await card.getByRole('link', { name: 'Look at it in the scene' }).click();
    await expect(maren.getByRole('region', { name: 'Properties' })).toContainText(name);
    await expect(maren.getByText('5.40 m')).toBeVisible();
  });

  await test.step('an issue of the plan stands in the scene and leads to its page', async () => {
    await maren.getByTitle('Issue 4, raised on a plan').click();
    await expect(maren).toHaveURL(/\/issues\//);
  });

  await test.step('the link is taken away', async () => {
    await maren.goto(`${place}/sheets`);
    await maren.getByRole('link', { name: /ORP-TVA-ZZ-00-D-A-0101/ }).click();
    await maren.getByRole('button', { name: '00 Ground' }).click();
    await maren.getByText('Take the link away').click();
    await expect(maren.getByRole('button', { name: '00 Ground' })).toBeHidden();
  });
  await maren.context().close();
});
