import { TRIAL_PLATFORMS } from '@itchkit/core/trial';

test.each(TRIAL_PLATFORMS)('the stand-in of %s has its controls where they are looked for', async (platform) => {
  const { default: controls } = (await import(`./${platform}/Controls`)) as { default: unknown };
  expect(controls).toBeInstanceOf(Function);
});
