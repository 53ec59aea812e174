export default async function endDatabase() {
  await globalThis.itchKitTestServer?.stop();
}
