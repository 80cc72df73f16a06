/** The scene: moved through, cut, measured, asked, kept. What must be seen is counted in pixels. */
import { expect, test, type Locator, type Page } from '@playwright/test';
import sharp from 'sharp';
import { signIn } from './steps.ts';

type Colour = (red: number, green: number, blue: number) => boolean;
const isOrange: Colour = (r, g, b) => r > 130 && r - g > 55 && g - b > 15;
/** Roof and walls of the hall. */
const isSlate: Colour = (r, g, b) => b > r + 8 && g > r;
const isBlue: Colour = (r, g, b) => b > 110 && b - r > 60 && g < b;

let place = '';
const canvasOf = (page: Page): Locator => page.locator('canvas[data-models]');
const settled = (page: Page): Promise<void> =>
  expect(page.locator('canvas[data-finished="true"]')).toBeVisible({ timeout: 60_000 });
/** Pixels of the picture that have a colour. */
async function count(page: Page, has: Colour): Promise<number> {
  await settled(page);
  const { data, info } = await sharp(await canvasOf(page).screenshot())
    .raw()
    .toBuffer({ resolveWithObject: true });
  let pixels = 0;
  for (let i = 0; i < data.length; i += info.channels) if (has(data[i]!, data[i + 1]!, data[i + 2]!)) pixels++;
  return pixels;
}
const eyeOf = async (page: Page): Promise<number[]> =>
  ((await canvasOf(page).getAttribute('data-eye')) ?? '').split(' ').map(Number);
const tool = async (page: Page, menu: string, item: string | RegExp): Promise<void> => {
  await page.getByRole('button', { name: menu, exact: true }).click();
  await page.getByRole('menuitem', { name: item }).click();
};

async function openModels(page: Page, titles: readonly string[], camera = ''): Promise<void> {
  const { items } = (await (await page.request.get(`/api${place}/containers?kind=model&limit=100`)).json()) as {
    items: { title: string; versionId: string }[];
  };
  const ids = titles.map((title) => items.find((item) => item.title === title)!.versionId);
  await page.goto(`${place}/scene?models=${ids.join(',')}${camera && `&camera=${camera}`}`);
  await expect(page.locator(`canvas[data-models="${titles.length}"]`)).toBeVisible({ timeout: 60_000 });
  await settled(page);
}
const BUILDING = ['Architectural model', 'Structural model'];

test('a coordinator judges the station in the scene', async ({ browser }) => {
  test.setTimeout(600_000);
  const maren = await signIn(browser, 'Maren Tolvik');
  await maren.getByRole('row', { name: /Orrin Point Lifeboat/ }).click();
  await expect(maren.getByTestId('register')).toBeVisible();
  place = new URL(maren.url()).pathname.replace(/\/register.*/, '');

  await test.step('turns it with the mouse and with keys, from the sides, without perspective', async () => {
    await openModels(maren, BUILDING);
    expect(await count(maren, isOrange)).toBeGreaterThan(1500);
    const box = (await canvasOf(maren).boundingBox())!;
    const first = await eyeOf(maren);
    await maren.mouse.move(box.x + 420, box.y + 300);
    await maren.mouse.down();
    await maren.mouse.move(box.x + 520, box.y + 300, { steps: 4 });
    await maren.mouse.up();
    await expect.poll(() => eyeOf(maren)).not.toEqual(first);
    await settled(maren);
    const second = await eyeOf(maren);
    await canvasOf(maren).focus();
    await maren.keyboard.press('ArrowRight');
    await expect.poll(() => eyeOf(maren)).not.toEqual(second);
    await maren.getByTitle('Look from the east').click();
    await settled(maren);
    // The folding doors look west.
    expect(await count(maren, isOrange)).toBeLessThan(300);
    await maren.keyboard.press('p');
    await settled(maren);
    await maren.getByRole('button', { name: 'Home' }).click();
    await maren.keyboard.press('p');
  });

  await test.step('flies up, turns on the spot, walks to a wall and up the stair', async () => {
    await openModels(maren, BUILDING, '30,-30,6,30,0,6');
    await maren.keyboard.press('f');
    const height = (await eyeOf(maren))[2]!;
    await maren.keyboard.down('e');
    await expect.poll(async () => (await eyeOf(maren))[2]).toBeGreaterThan(height + 2);
    await maren.keyboard.up('e');
    await maren.keyboard.press('t');
    const [x] = await eyeOf(maren);
    await maren.keyboard.down('ArrowLeft');
    await expect(canvasOf(maren)).toHaveAttribute('data-finished', 'false');
    await maren.keyboard.up('ArrowLeft');
    expect((await eyeOf(maren))[0]).toBeCloseTo(x!, 1);

    // In the corridor, before its wall.
    await openModels(maren, BUILDING, '50,5,5.85,50,9,5.85');
    await maren.keyboard.press('w');
    await maren.keyboard.down('w');
    await expect.poll(async () => (await eyeOf(maren))[1]).toBeGreaterThan(5.36);
    await maren.keyboard.up('w');
    expect((await eyeOf(maren))[1]).toBeLessThan(5.4);

    await openModels(maren, BUILDING, '51.9,6.6,5.85,58,6.6,5.85');
    await maren.keyboard.press('w');
    await maren.keyboard.down('ArrowUp');
    await expect.poll(async () => (await eyeOf(maren))[2], { timeout: 60_000 }).toBeGreaterThan(7.75);
    await maren.keyboard.up('ArrowUp');
    // The upper flight runs back.
    await openModels(maren, BUILDING, '56.1,7.9,7.8,50,7.9,7.8');
    await maren.keyboard.press('w');
    await maren.keyboard.down('ArrowUp');
    await expect.poll(async () => (await eyeOf(maren))[2], { timeout: 60_000 }).toBeGreaterThan(9.7);
    await maren.keyboard.up('ArrowUp');
    await maren.keyboard.press('Escape');
    await expect(maren.getByRole('button', { name: 'Orbit' })).toBeVisible();
  });

  await test.step('cuts it: at a level, turned over, in a box, as a plan', async () => {
    await openModels(maren, BUILDING);
    const whole = await count(maren, isOrange);
    await tool(maren, 'Section', 'level');
    const section = maren.getByRole('region', { name: 'Sections' });
    await section.getByRole('slider').focus();
    for (let i = 0; i < 3; i++) await maren.keyboard.press('PageDown');
    await expect.poll(() => count(maren, isOrange)).toBeLessThan(whole / 2);
    await section.getByTitle('Cut away the other side').click();
    await expect.poll(() => count(maren, isOrange)).toBeGreaterThan(whole / 2);
    await section.getByTitle('Remove the section').click();
    await expect(section).toBeHidden();
    await maren.getByRole('textbox', { name: 'Search elements' }).fill('Folding door leaf');
    await maren.getByRole('button', { name: 'Select all' }).click();
    await tool(maren, 'Section', /box around/);
    await expect(section).toContainText('Only what lies in it is drawn.');
    await section.getByTitle('Remove the box').click();
    await maren.getByRole('textbox', { name: 'Search elements' }).fill('');
    await tool(maren, 'View', /Plan of 00/);
    await expect(section).toContainText('5.40 m');
    await settled(maren);
  });

  await test.step('measures on the plan: snapped from corner to corner, an area, a clear height', async () => {
    // What the address says of a camera without perspective is where each place is on the screen.
    const camera = (): number[] => (new URL(maren.url()).searchParams.get('camera') ?? '').split(',').map(Number);
    await expect.poll(() => camera().length).toBe(7);
    const [, , , x, y, , height] = camera();
    const box = (await canvasOf(maren).boundingBox())!;
    const at = (px: number, py: number): [number, number] => [
      box.x + box.width / 2 + ((px - x!) / height!) * box.height,
      box.y + box.height / 2 - ((py - y!) / height!) * box.height,
    ];
    await tool(maren, 'Measure', 'distance');
    await expect(maren.getByText('Point at the first end.')).toBeVisible();
    const ends = [at(36.3, -0.35), at(36.3, 14.35)] as const;
    await maren.mouse.move(...ends[0]);
    await expect(maren.locator('[data-snap="corner"]')).toBeVisible();
    await maren.mouse.click(...ends[0]);
    await expect(maren.getByText('Point at the other end.')).toBeVisible();
    await maren.mouse.click(...ends[1]);
    const list = maren.getByRole('region', { name: 'Measures and marks' });
    await expect(list).toContainText('14.800 m');
    await tool(maren, 'Measure', 'area');
    await maren.mouse.click(...at(18, 7));
    await expect(list).toContainText(/54\d\.\d\d m²/);
    await tool(maren, 'Measure', 'volume');
    await maren.mouse.click(...at(18, 7));
    await expect(list).toContainText(/16\d\.\d\d m³/);
    await maren.keyboard.press('Escape');
  });

  await test.step('marks the view, and keeps it with all that is on it', async () => {
    await tool(maren, 'Mark', 'text');
    const box = (await canvasOf(maren).boundingBox())!;
    await maren.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
    await maren.getByRole('dialog').getByRole('textbox').fill('Is this clear?');
    await maren.getByRole('dialog').getByRole('button', { name: 'Mark' }).click();
    await expect(maren.getByRole('region', { name: 'Measures and marks' })).toContainText('Is this clear?');
    await maren.keyboard.press('Escape');
    await maren.getByRole('button', { name: 'Save viewpoint' }).click();
    await maren.getByRole('dialog').getByRole('textbox').fill('Plan of the ground floor, measured');
    await maren.getByRole('dialog').getByRole('button', { name: 'Save' }).click();
    await expect(maren.getByText('Saved. It stands under Viewpoints.')).toBeVisible();
  });

  await test.step('asks what is said of elements: words, conditions, colours, sums', async () => {
    await openModels(maren, BUILDING);
    await maren.getByRole('textbox', { name: 'Search elements' }).fill('door EI 30');
    await expect(maren.locator('.found')).toContainText(/^4 found/);
    await maren.getByRole('button', { name: 'Filter', exact: true }).click();
    await maren.getByRole('combobox', { name: 'Add a condition' }).click();
    await maren.keyboard.type('Name');
    await maren.getByRole('option', { name: 'Name', exact: true }).click();
    await maren.getByLabel('Test of Name').selectOption('contains');
    await maren.getByLabel('Value of Name').fill('Folding door leaf');
    const result = maren.locator('.filter [role=status]');
    await expect(result).toContainText(/^[1-9]\d* elements/);
    const before = await count(maren, isOrange);
    expect(await count(maren, isSlate)).toBeGreaterThan(20_000);
    await result.getByRole('button', { name: 'Isolate' }).click();
    await expect.poll(() => count(maren, isSlate)).toBeLessThan(3000);
    expect(await count(maren, isOrange)).toBeGreaterThan(before / 2);
    await maren.getByRole('button', { name: 'Show all' }).click();
    await maren.getByRole('button', { name: 'Colour', exact: true }).click();
    await maren.getByRole('combobox', { name: 'Colour by' }).click();
    await maren.keyboard.type('Class');
    await maren.getByRole('option', { name: 'Class', exact: true }).click();
    await expect.poll(() => count(maren, isBlue)).toBeGreaterThan(3000);
    await expect(maren.getByRole('button', { name: /IfcCovering/ })).toContainText('516');
    await maren.getByRole('button', { name: 'Schedule', exact: true }).click();
    const schedule = maren.getByRole('region', { name: 'Schedule' });
    await expect(schedule.getByRole('row', { name: /IfcDoor/ })).toContainText('20');
    const saved = maren.waitForEvent('download');
    await schedule.getByRole('button', { name: 'Export XLSX' }).click();
    expect((await saved).suggestedFilename()).toBe('Schedule.xlsx');
    await schedule.getByRole('row', { name: /IfcDoor/ }).click();
    await expect(maren.getByRole('region', { name: 'Properties' })).toContainText('and 19 more selected');
    await maren.keyboard.press('s');
  });

  await test.step('the sun stands where it stands', async () => {
    await tool(maren, 'View', /Sun and shadows/);
    const sun = maren.getByRole('region', { name: 'Sun' });
    await expect(sun.getByLabel('Latitude, degrees north')).toHaveValue('54.175');
    await sun.getByLabel('Hour of the day').fill('30');
    await expect(sun).toContainText('The sun is below the horizon.');
    await sun.getByLabel('Hour of the day').fill('780');
    await expect(sun).toContainText(/5\d\.\d° high/);
    await sun.getByTitle('Even light again').click();
  });
  await maren.context().close();
});

test('somebody new opens a viewpoint on a phone, looks around and measures', async ({ browser }) => {
  test.setTimeout(300_000);
  const maren = await signIn(browser, 'Maren Tolvik', '/', { viewport: { width: 390, height: 844 }, hasTouch: true });
  const projects = (await (await maren.request.get('/api/projects')).json()) as { id: string; number: string }[];
  place = `/projects/${projects.find(({ number }) => number === 'ORP')!.id}`;
  const viewpoints = (await (await maren.request.get(`/api${place}/viewpoints`)).json()) as {
    items: { id: string; name: string }[];
  };
  const duct = viewpoints.items.find(({ name }) => name === 'Upper main duct at beam 13')!;
  await maren.goto(`${place}/scene?viewpoint=${duct.id}`);
  await expect(canvasOf(maren)).not.toHaveAttribute('data-models', '0', { timeout: 60_000 });
  await settled(maren);
  const before = await eyeOf(maren);
  const box = (await canvasOf(maren).boundingBox())!;
  await maren.mouse.move(box.x + 150, box.y + 120);
  await maren.mouse.down();
  await maren.mouse.move(box.x + 220, box.y + 130, { steps: 4 });
  await maren.mouse.up();
  await expect.poll(() => eyeOf(maren)).not.toEqual(before);
  await settled(maren);
  await tool(maren, 'Measure', 'clear height');
  await expect(maren.getByText('Point at a floor, a ceiling or a wall.')).toBeVisible();
  await maren.getByRole('button', { name: 'Leave (Esc)' }).click();
  await tool(maren, 'Measure', 'area');
  const list = maren.getByRole('region', { name: 'Measures and marks' });
  // Somewhere in the middle of the picture stands something.
  for (let y = 0.3; y < 0.8 && !(await list.count()); y += 0.1)
    await maren.mouse.click(box.x + box.width / 2, box.y + box.height * y);
  await expect(list).toContainText(/m²/);
  expect(await maren.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await maren.context().close();
});

test('a coordinator prepares a meeting: models of every kind, viewpoints in order, two versions, explanations', async ({
  browser,
}) => {
  test.setTimeout(600_000);
  const maren = await signIn(browser, 'Maren Tolvik');
  const projects = (await (await maren.request.get('/api/projects')).json()) as { id: string; number: string }[];
  place = `/projects/${projects.find(({ number }) => number === 'ORP')!.id}`;

  await test.step('furniture from a general modeller stands in the rooms of the building', async () => {
    await openModels(maren, ['Architectural model', 'Loose furniture']);
    const tree = maren.locator('.left');
    await expect(tree).toContainText('01.11 Mess');
    await tree.getByPlaceholder('Name, type, property, GlobalId').fill('Mess chair');
    await expect(tree).toContainText('Mess chair');
  });

  await test.step('all six models are drawn together', async () => {
    await openModels(maren, [
      ...['Architectural model', 'Structural model', 'Ventilation and pipes model'],
      ...['Electrical model', 'Slipway and yard model', 'Loose furniture'],
    ]);
    await expect(maren.getByTestId('scene-stats')).toContainText(/[4-9]\d\d\d elements/);
  });

  await test.step('one sees what somebody else has selected at this moment', async () => {
    const idris = await signIn(browser, 'Idris Callowby');
    await openModels(idris, ['Structural model']);
    await idris.getByPlaceholder('Name, type, property, GlobalId').fill('Portal column 4N');
    await idris.locator('.node .label', { hasText: 'Portal column 4N' }).click();
    const others = maren.getByRole('list', { name: 'Selected by others' });
    await expect(others).toContainText('1 element', { timeout: 60_000 });
    const eye = await eyeOf(maren);
    await others.getByRole('button').click();
    await expect.poll(() => eyeOf(maren)).not.toEqual(eye);
    await idris.context().close();
    await expect(others).toBeHidden({ timeout: 60_000 });
  });

  await test.step('a control is explained and not used', async () => {
    await maren.keyboard.press('?');
    const help = maren.getByRole('complementary', { name: 'Explanations' });
    await expect(help).toContainText('Point at a control');
    await maren.getByRole('button', { name: 'Section' }).hover();
    await expect(help).toContainText('Cuts level, across, along');
    await maren.getByRole('button', { name: 'Section' }).click();
    await expect(maren.getByRole('menuitem', { name: 'level' })).toBeHidden();
    await maren.keyboard.press('Escape');
    await expect(help).toBeHidden();
  });

  await test.step('viewpoints of the meeting are put in order and shown one after the other', async () => {
    await maren.goto(`${place}/viewpoints?folder=Coordination%2012`);
    const cards = maren.getByRole('article');
    const names = (): Promise<string[]> => cards.evaluateAll((all) => all.map((one) => one.ariaLabel ?? ''));
    await expect.poll(async () => (await names()).length).toBeGreaterThan(2);
    const before = await names();
    await maren.getByRole('button', { name: `What to do with ${before[1]}` }).click();
    await maren.getByRole('button', { name: 'One place earlier' }).click();
    await expect.poll(names).toEqual([before[1], before[0], ...before.slice(2)]);
    await maren.getByRole('button', { name: 'Show one after the other' }).click();
    const slides = maren.getByRole('navigation', { name: 'Viewpoints one after the other' });
    await expect(slides).toContainText(`${before[1]} 1 of ${before.length}`);
    await settled(maren);
    const eye = await eyeOf(maren);
    await maren.keyboard.press('PageDown');
    await expect(slides).toContainText(`${before[0]} 2 of ${before.length}`);
    await expect.poll(() => eyeOf(maren)).not.toEqual(eye);
    await slides.getByRole('button', { name: 'End' }).click();
    await expect(slides).toBeHidden();
  });

  await test.step('one viewpoint on two versions: who moves one camera moves the other', async () => {
    await maren.goto(`${place}/viewpoints`);
    await maren.getByRole('button', { name: /What to do with Column 4N/ }).click();
    await maren.getByRole('button', { name: 'Two versions side by side' }).click();
    const [left, right] = ['Earlier', 'Later'].map((name) => maren.getByRole('region', { name }));
    for (const side of [left!, right!]) {
      await expect(side.locator('canvas[data-models="1"]')).toBeVisible({ timeout: 60_000 });
      await expect(side.getByRole('combobox')).toContainText('version 3, P02');
    }
    const shot = (side: Locator): Promise<string> =>
      side
        .locator('canvas')
        .screenshot()
        .then((png) => png.toString('base64'));
    const still = await shot(right!);
    const box = (await left!.locator('canvas').boundingBox())!;
    await maren.mouse.move(box.x + 200, box.y + 200);
    await maren.mouse.down();
    await maren.mouse.move(box.x + 300, box.y + 220, { steps: 4 });
    await maren.mouse.up();
    await expect.poll(() => shot(right!), { timeout: 30_000 }).not.toBe(still);
  });
  await maren.context().close();
});

test('a scene that has lost its graphics says so, and comes back as it was', async ({ browser }) => {
  test.setTimeout(300_000);
  const maren = await signIn(browser, 'Maren Tolvik');
  const projects = (await (await maren.request.get('/api/projects')).json()) as { id: string; number: string }[];
  place = `/projects/${projects.find(({ number }) => number === 'ORP')!.id}`;
  await openModels(maren, BUILDING);
  const orange = await count(maren, isOrange);
  const eye = await eyeOf(maren);
  await canvasOf(maren).evaluate((canvas: HTMLCanvasElement) => {
    const graphics = canvas.getContext('webgl2')!.getExtension('WEBGL_lose_context')!;
    graphics.loseContext();
    (globalThis as { giveBack?: () => void }).giveBack = () => graphics.restoreContext();
  });
  await expect(maren.getByText('The picture was lost')).toBeVisible();
  await maren.evaluate(() => (globalThis as { giveBack?: () => void }).giveBack!());
  await expect(maren.getByText('The picture was lost')).toBeHidden();
  expect(await eyeOf(maren)).toEqual(eye);
  await expect.poll(() => count(maren, isOrange), { timeout: 60_000 }).toBeGreaterThan(orange * 0.9);
  await maren.context().close();
});
