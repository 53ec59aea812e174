import { Hands } from './hands';
import { card } from './steps';

/** Hands for whole jobs: what comes again and again in each stage. */
export class JobHands extends Hands {
  async toStage(stage: string): Promise<void> {
    const link = this.page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: new RegExp(`^${stage}`) });
    await this.press(`to ${stage}`, link);
    await this.page.waitForURL(`**/${stage.toLowerCase()}`);
  }

  async button(name: string): Promise<void> {
    await this.press(name, this.page.getByRole('button', { name, exact: true }));
  }

  async number(label: string, value: number): Promise<void> {
    await this.type(label, this.page.getByRole('textbox', { name: label, exact: true }), String(value));
  }

  /** Opens a fold of the Card, if it is closed. */
  async unfold(title: string): Promise<void> {
    const fold = card(this.page)
      .getByRole('button', { name: new RegExp(`^${title}`) })
      .and(this.page.locator('[aria-expanded]'))
      .first();
    if ((await fold.getAttribute('aria-expanded')) === 'false') await this.press(title, fold);
  }
}
