/** An issue from question to proof: raised in the scene, answered by mail and with a version, verified side by side; and in other programs meanwhile. */
import { expect, test, type Download } from '@playwright/test';
import { signInAsDemo } from '@kindred/contract/identity/identity';
import { changeIssueSettings, showIssueSettings } from '@kindred/contract/issues/settings';
import { addPerson, listPeople } from '@kindred/contract/people/people';
import { createProject } from '@kindred/contract/portfolio/portfolio';
import { listFolders } from '@kindred/contract/register/folders';
import { deliver, moveStates } from '@kindred/contract/register/register';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { buffer } from 'node:stream/consumers';
import { openZip } from '../../packages/archive/src/read-zip.ts';
import { zipAsTheyCome } from '../../packages/archive/src/write-zip.ts';
import { readBcf } from '../../packages/core/src/bcf/read-bcf.ts';
import { writeBcf } from '../../packages/core/src/bcf/write-bcf.ts';
import type { Part, Vector } from '../../packages/demo/src/building/parts.ts';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import { writeModel } from '../../packages/demo/src/ifc/write-model.ts';
import { choose, signIn } from './steps.ts';

const CODE = 'LIF-HQS-ZZ-ZZ-M-S-0001';
const beam = (height: number): Part => ({
  ...{ key: 'beam', class: 'IFCBEAM', name: 'Roof beam', type: 'Beam', material: 'Steel' },
  ...{ colour: [0.5, 0.5, 0.52] as Vector, storey: '00 Ground', at: [0, 0, height], size: [6, 0.2, 0.4] },
});
const model = (height: number): Uint8Array =>
  Buffer.from(writeModel([beam(height)], { title: CODE, organisation: 'Nobody', schema: 'IFC4' }));

/** What another program does with a file: reads it, changes it, writes it. */
async function changedElsewhere(file: string): Promise<Uint8Array> {
  const zip = await openZip(file);
  const read = await readBcf(zip);
  Object.assign(read.topics[0]!, { priority: 'blocking', description: 'Raise it by 300 mm' });
  async function* entries() {
    for await (const { name, bytes } of writeBcf(
      read,
      '3.0',
      (entry) => zip.read(entry),
      () => undefined,
    ))
      yield { name, content: bytes };
  }
  const bytes = await buffer(zipAsTheyCome(entries()));
  zip.close();
  return bytes;
}

test('an issue, from a marked picture to its proof', async ({ browser, baseURL }) => {
  const api = async (email: string): Promise<ApiPerson> => {
    const person = new ApiPerson(baseURL!, '');
    await person.call(signInAsDemo, { body: { email } });
    return person;
  };
  const founder = await api('maren.tolvik@tva.example');
  const { id: projectId } = await founder.call(createProject, {
    body: { name: 'Life of an issue', number: 'LIF', kind: 'Harbour', templateId: 'building' },
  });
  const params = { projectId };
  const { roles, teams } = await founder.call(listPeople, { params });
  const petra = await api('petra.vossling@hqs.example');
  const roleIds = [roles.find(({ name }) => name === 'Author')!.id];
  const teamId = teams.find(({ name }) => name === 'Structure')!.id;
  await founder.call(addPerson, {
    params,
    body: { name: 'Petra Vossling', email: 'petra.vossling@hqs.example', teamId, roleIds },
  });
  const { settings, edition } = await founder.call(showIssueSettings, { params });
  settings.types.find(({ name }) => name === 'defect')!.steps.close = {
    ...{ by: ['raiser', 'verifier'], reason: false, proof: true },
  };
  await founder.call(changeIssueSettings, { params, body: { settings, edition } });
  const folderId = (await petra.call(listFolders, { params })).find(({ path: at }) => at === 'Structure / Models')!.id;
  const send = async (height: number, answers?: number[]) => {
    const uploadId = await petra.upload(projectId, `${CODE}.ifc`, model(height));
    const body = { folderId, files: [{ uploadId, code: CODE, ...(answers && { answers }) }] };
    const { files } = await petra.call(deliver, { params, body });
    await petra.call(moveStates, { params, body: { containerIds: [files[0]!.containerId], action: 'share' } });
  };
  await send(3);

  const maren = await signIn(browser, 'Maren Tolvik', `/projects/${projectId}/scene`);
  const dialog = maren.getByRole('dialog');
  await test.step('it is raised in the scene, with a mark on its picture', async () => {
    await maren.getByText(CODE).click();
    await expect(maren.locator('canvas[data-finished="true"][data-models="1"]')).toBeVisible({ timeout: 60_000 });
    await maren.getByRole('button', { name: 'Raise issue' }).click();
    const picture = dialog.getByRole('img', { name: 'What the issue is about' });
    await expect(picture.locator('canvas').first()).toBeVisible();
    await dialog.getByRole('button', { name: 'Frame' }).click();
    const box = (await picture.boundingBox())!;
    await maren.mouse.move(box.x + 60, box.y + 40);
    await maren.mouse.down();
    await maren.mouse.move(box.x + 220, box.y + 150, { steps: 4 });
    await maren.mouse.up();
    await expect(dialog.getByRole('button', { name: 'Take back' })).toBeEnabled();
    await dialog.locator('.field', { hasText: 'Title' }).getByRole('textbox').fill('The roof beam lies too low');
    await choose(maren, 'Type', 'defect');
    await choose(maren, 'Who answers', /Petra/);
    await dialog.getByRole('button', { name: 'Raise issue' }).click();
    await expect(maren.getByRole('heading', { level: 1 })).toContainText('The roof beam lies too low');
    await expect(maren.locator('.place img')).toHaveAttribute('src', /pictures\/1$/);
  });
  const issue = new URL(maren.url()).pathname;

  const other = await signIn(browser, 'Petra Vossling', '/outbox');
  await test.step('whoever answers is told by mail, writes back, and is led exactly there', async () => {
    const letter = other.locator('article', { hasText: 'The roof beam lies too low' }).first();
    await letter.getByRole('button', { name: 'Reply' }).click();
    const words = other.getByRole('textbox', { name: 'Your reply' });
    await words.fill(`It goes up by 300 mm.${await words.inputValue()}`);
    await other.getByRole('button', { name: 'Send' }).click();
    await expect(other).toHaveURL(new RegExp(issue));
    await expect(other.locator('article', { hasText: 'It goes up by 300 mm.' })).toBeVisible();
    await expect(other.locator('article').getByLabel('by mail')).toBeVisible();
    await other.getByRole('link', { name: /Open in the scene, exactly here/ }).click();
    await expect(other.locator('canvas[data-models="1"]')).toBeVisible({ timeout: 60_000 });
  });

  await test.step('the answer is a version, which the upload names', async () => {
    await send(3.3, [1]);
    await maren.goto(`/projects/${projectId}/issues`);
    await expect(maren.getByRole('button', { name: /For you to verify/ })).toBeVisible();
    await maren
      .getByRole('row', { name: /The roof beam lies too low/ })
      .first()
      .click();
    const now = maren.getByRole('region', { name: 'As raised and now' });
    await expect(now).toContainText('A newer version has arrived since');
    await expect(now).toContainText(`Version 2 of ${CODE}`);
  });

  await test.step('as raised and now stand side by side, linked', async () => {
    await maren.getByRole('link', { name: 'As raised and now, side by side' }).click();
    await expect(maren.locator('canvas[data-models="1"]')).toHaveCount(2, { timeout: 60_000 });
    await maren.goBack();
  });

  await test.step('nobody else may close it; whoever verifies it does, on its proof', async () => {
    await other.goto(issue);
    await expect(other.locator('.page-head')).toContainText('answered');
    await expect(other.getByRole('button', { name: 'Close', exact: true })).toBeHidden();
    await maren.getByRole('button', { name: 'Close', exact: true }).click();
    await dialog.getByRole('button', { name: 'Close', exact: true }).last().click();
    await expect(maren.locator('.page-head')).toContainText('closed');
    await expect(maren.locator('.history')).toContainText('answered with version 2');
    await expect(maren.locator('.history')).toContainText('status: answered → closed');
  });

  await test.step('it goes to another program, changes on both sides, and what counts is chosen', async () => {
    await maren.goto(`/projects/${projectId}/issues?status=closed`);
    await maren.getByRole('button', { name: 'BCF', exact: true }).click();
    const saved = maren.waitForEvent('download', { timeout: 60_000 });
    await maren.getByRole('menuitem', { name: 'Export as BCF 3.0' }).click();
    const file = await kept(await saved);
    await maren.goto(issue);
    await maren.getByRole('button', { name: 'Change title and words' }).click();
    await maren.getByRole('textbox', { name: 'What is asked, or wrong' }).fill('Raise it by 250 mm');
    await maren.getByRole('button', { name: 'Keep' }).click();
    await expect(maren.getByText('Raise it by 250 mm').first()).toBeVisible();
    await maren.goto(`/projects/${projectId}/issues`);
    await maren.getByRole('button', { name: 'BCF', exact: true }).click();
    await maren.getByRole('menuitem', { name: 'Bring in a BCF file …' }).click();
    await dialog
      .getByLabel('A BCF file')
      .setInputFiles([
        { name: 'back.bcf', mimeType: 'application/octet-stream', buffer: Buffer.from(await changedElsewhere(file)) },
      ]);
    await expect(dialog.getByRole('status')).toContainText('1 changed on both sides', { timeout: 60_000 });
    await dialog.getByRole('row', { name: /Words/ }).getByRole('radio').last().check();
    await dialog.getByRole('button', { name: 'Take 1 topic' }).click();
    await expect(dialog).toBeHidden({ timeout: 60_000 });
    await maren.goto(issue);
    await expect(maren.getByText('Raise it by 300 mm').first()).toBeVisible();
    await expect(maren.locator('.history')).toContainText('description: Raise it by 250 mm → Raise it by 300 mm');
  });

  await test.step('a card is moved by keyboard, and the board knows', async () => {
    await maren.goto(`/projects/${projectId}/issues?as=board`);
    const card = maren.getByRole('link', { name: /The roof beam lies too low, closed/ });
    await card.focus();
    await maren.keyboard.press('Shift+ArrowLeft');
    await dialog.getByRole('textbox').fill('Looked at once more');
    await dialog.getByRole('button', { name: 'Reopen' }).click();
    await expect(
      maren.getByRole('region', { name: 'Issues that are open' }).getByText('The roof beam lies too low'),
    ).toBeVisible();
  });
});

async function kept(download: Download): Promise<string> {
  const file = path.join(fs.mkdtempSync(path.join(os.tmpdir(), 'life-')), 'issues.bcf');
  await download.saveAs(file);
  return file;
}
