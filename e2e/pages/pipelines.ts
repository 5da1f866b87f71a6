import { Page } from './page';

export class PipelinesScreen extends Page {
  async open(url: string) {
    await this.driver.get(url);
    await this.find('sieve-pipelines-page main');
  }

  /** Makes a pipeline from a folder below the root that the browser shows first. */
  async make(name: string, folder: string, template: string, year: string) {
    await this.press('New pipeline');
    await this.fill('#name', name);
    await this.chooseFolder(folder, 'sieve-new-pipeline');
    await this.untilText('sieve-new-pipeline .at b', new RegExp(`/${folder}$`));
    await this.fill('#template', template);
    await this.fill('#year', year);
    await this.press('Make the pipeline', 'sieve-new-pipeline');
  }

  cards = () => this.texts('sieve-pipeline-card');
}
