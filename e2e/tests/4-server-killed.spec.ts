import { expect, test } from '@playwright/test';
import { freePort, startApplication, useApplication } from '../application';
import { checked, choosePart, find, goToStage, saved, setNumber } from '../steps';

const own = useApplication({ seed: true });

test('a server killed in the middle of an edit: the page says so, keeps the change, and saves it when there is one again', async ({
  page,
}) => {
  const port = await freePort();
  let server = await startApplication(own.database(), port);
  try {
    await page.goto(server.url);
    await page.getByRole('link', { name: 'Open Sluice crane, finished', exact: true }).first().click();
    await checked(page);
    await goToStage(page, 'Shape');
    await choosePart(page, 'ladder');
    await setNumber(page, 'Position x', 0.111);
    await saved(page);
    await server.kill();
    await setNumber(page, 'Position x', 0.222);
    await expect(find(page, '[data-save]')).toHaveText('not saved yet');
    server = await startApplication(own.database(), port);
    await saved(page);

    // Killed once more, and this time the page is closed too: what was saved is there, the rest comes back with the page.
    await server.kill();
    await setNumber(page, 'Position x', 0.333);
    await expect(find(page, '[data-save]')).toHaveText('not saved yet');
    server = await startApplication(own.database(), port);
    page.on('dialog', (dialog) => void dialog.accept());
    await page.reload();
    await checked(page);
    await choosePart(page, 'ladder');
    await expect(page.getByRole('textbox', { name: 'Position x', exact: true })).toHaveValue('0.333');
    await saved(page);
  } finally {
    await server.stop();
  }
});
