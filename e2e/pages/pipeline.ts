import { By, Key, type WebElement } from 'selenium-webdriver';
import { settingsFormParts } from '../../web/src/app/forms/settings-form.page';
import { escaped } from '../../core/values/escaped';
import { Page } from './page';

/** Top bar and ruler, which all four places share. */
class Place extends Page {
  goTo = (place: 'Intake' | 'Bench' | 'Dataset' | 'Runs') => this.press(new RegExp(`^${place}`), 'sieve-top-bar');
  slots = () => this.texts('sieve-time-ruler .slots > *');
  chooseSlot = (name: string) => this.press(new RegExp(`^${name} `), 'sieve-time-ruler');

  async refresh() {
    await this.press('Run refresh', 'sieve-top-bar');
    // All reports may have to be read for it.
    await this.untilText('.ended', /^Refresh: /, 110_000);
    return this.text('.ended');
  }
}

/** A place with a sheet to be worked in. */
class SheetPlace extends Place {
  protected readonly sheet: string = 'sieve-grid';
  cell = (row: number, column: number) =>
    this.find(`${this.sheet} tbody tr:not(.space):nth-child(${row + 2}) td:nth-child(${column + 2})`);
  /** Chooses a cell, once it is there to be chosen: a sheet that was scrolled sideways may have it under its margin. */
  clickCell = (row: number, column: number) =>
    this.clickOn(async () => {
      const cell = await this.cell(row, column);
      await this.driver.executeScript("arguments[0].scrollIntoView({ block: 'nearest', inline: 'nearest' })", cell);
      return cell;
    });
}

export class Intake extends Place {
  reports = () => this.texts('sieve-intake-page li button');
  reportIs = (pattern: RegExp) =>
    this.until(`a report that says ${pattern}`, async () => (await this.reports()).some((text) => pattern.test(text)));
  takeLabels = () => this.texts('sieve-paper .take');
  take = (title: string) => this.press(`take: ${title}`, 'sieve-paper');
  strip = () => this.texts('sieve-match-strip tbody tr > *');
  pages = () => this.all('sieve-page-strip button');
  show = (report: string) => this.press(new RegExp(`^${report.replace('.', '\\.')} `), 'sieve-intake-page ul');
  card = (name: string) => this.until(`a card “${name}”`, async () => (await this.cards()).includes(name));
  cards = (): Promise<string[]> =>
    this.driver.executeScript("return [...document.querySelectorAll('sieve-take-card .name')].map((e) => e.value)");
  /** Rows of a sheet in small, the cells parted by bars. */
  miniSheet = (label: string): Promise<string[]> =>
    this.driver.executeScript(
      "return [...document.querySelectorAll('[aria-label=\"' + arguments[0] + '\"] tr')].map((row) => [...row.cells].map((cell) => cell.innerText.trim()).join(' | '))",
      label,
    );
  tabs = () => this.all('sieve-paper-ruler .above .tab');

  /** Where a point of the page lies in the window. */
  private place = (
    [x, y]: readonly [number, number],
    [wide, high]: readonly [number, number],
  ): Promise<[number, number]> =>
    this.driver.executeScript(
      'const b = document.querySelector("sieve-paper canvas").getBoundingClientRect(); return [b.left + b.width * arguments[0], b.top + b.height * arguments[1]].map(Math.round)',
      x / wide,
      y / high,
    );

  async point(at: readonly [number, number], page: readonly [number, number]) {
    const [x, y] = await this.place(at, page);
    await this.driver.actions().move({ x, y }).click().perform();
  }
  async drawArea(from: readonly [number, number], to: readonly [number, number], page: readonly [number, number]) {
    const [x, y] = await this.place(from, page);
    const [toX, toY] = await this.place(to, page);
    await this.driver.actions().move({ x, y }).press().move({ x: toX, y: toY }).release().perform();
  }
  async dragTab(index: number, pixels: number) {
    const tab = (await this.tabs())[index];
    await this.driver
      .actions()
      .move({ origin: tab })
      .press()
      .move({ origin: tab, x: pixels, y: 0 })
      .release()
      .perform();
  }
}

export class Bench extends SheetPlace {
  protected override readonly sheet = '[aria-label="Sheet"] > sieve-grid';
  layers = () => this.texts('sieve-stack button.head');
  layerIs = (pattern: RegExp) =>
    this.until(`a layer that says ${pattern}`, async () => (await this.layers()).some((text) => pattern.test(text)));
  heading = () => this.text('[aria-label="Sheet"] .pane-head');
  headingIs = (pattern: RegExp) => this.untilText('[aria-label="Sheet"] .pane-head', pattern);
  columns = () => this.texts('[aria-label="Sheet"] > sieve-grid thead th');
  held = () => this.fetched('.held tbody tr:not(.space)');

  async choose(layer: string) {
    await this.click('sieve-stack button.head', new RegExp(`^${escaped(layer)}`), `the layer ${layer}`);
    await this.headingIs(new RegExp(`^After “${layer}`));
  }

  /** Adds a step of a kind to a zone, found by words. */
  async add(zone: string, words: string) {
    await this.press(`+ step to ${zone}`, 'sieve-stack');
    await this.fill('#find-step', words);
    const field = await this.find('#find-step');
    await field.sendKeys(Key.ENTER);
    await this.until('the dialog to close', async () => (await this.all('#find-step')).length === 0);
  }

  /** The field of the open step with this title. */
  async field(title: string): Promise<WebElement> {
    let label: WebElement | null = null;
    await this.until(
      `the field ${title}`,
      async () => (label = await this.saying(settingsFormParts.labels, new RegExp(`^${escaped(title)}$`))) !== null,
    );
    return this.driver.findElement(By.id((await label!.getAttribute('for'))!));
  }

  async set(title: string, text: string) {
    const field = await this.field(title);
    await field.sendKeys(Key.chord(Key.CONTROL, 'a'), text);
  }

  /** A part of the open form by the name that it is read out with. */
  named = (label: string) => `:is(sieve-stack, sieve-foot-form) [aria-label="${label}"]`;
  /** Chooses in the field of the open step with this title. */
  async pickIn(title: string, option: string) {
    const field = await this.field(title);
    await this.pick(`[id="${await field.getAttribute('id')}"]`, option);
  }
  /** Rows of the sheet as they are drawn, the margin first. */
  rows = () => this.fetched('[aria-label="Sheet"] > sieve-grid tbody tr:not(.space)');
  /** Scrolls the sheet sideways to so many pixels. */
  scrollSheet = (left: number) =>
    this.driver.executeScript(
      'document.querySelector(\'[aria-label="Sheet"] > sieve-grid .frame\').scrollLeft = arguments[0]',
      left,
    );
  /** The heading of a column of the sheet. */
  async columnHeading(name: string): Promise<WebElement> {
    await this.until(`the heading ${name}`, async () =>
      (await this.texts('[aria-label="Sheet"] > sieve-grid thead th .name')).includes(name),
    );
    const found = await this.saying('[aria-label="Sheet"] > sieve-grid thead th', new RegExp(`^${escaped(name)}`));
    if (!found) throw new Error(`There is no heading “${name}”.`);
    return found;
  }
  /** Presses something while a key is held. */
  pressWith = (element: WebElement, key: string) =>
    this.driver.actions().keyDown(key).click(element).keyUp(key).perform();
  /** Opens the menu of a layer by the right mouse button; again where the menu before it was still closing. */
  async openLayerMenu(title: string) {
    const isOpen = async () =>
      (await this.texts('.p-contextmenu [data-pc-section="itemlink"]')).some((text) => text !== '');
    await this.until(`the menu of the layer ${title}`, async () => {
      const layer = await this.saying('sieve-stack .head', new RegExp(`^${escaped(title)}`));
      if (!layer) return false;
      await this.driver.actions().contextClick(layer).perform();
      await this.driver.wait(isOpen, 2_000);
      // One that closes does so within this time.
      await this.driver.sleep(300);
      return isOpen();
    });
  }
  /** Presses what the open menu says. */
  async pressMenu(label: string) {
    await this.press(label, '.p-menu, .p-contextmenu');
  }
  chosenCell = () => this.text('sieve-grid td.current');

  /** The paper at the width at which it is read. */
  async readPaper() {
    if ((await this.all('sieve-bench-page.edge')).length > 0) await this.press('paper', 'sieve-paper-pane');
    await this.find('sieve-paper canvas');
  }

  /** Clicks the middle of a box of the page, given in points. */
  async clickPaper([x0, y0, x1, y1]: readonly number[]) {
    await this.readPaper();
    const canvas = await this.find('sieve-paper canvas');
    const bringToSight = async () => {
      const scale = await this.scale();
      return this.driver.executeScript<[number, number]>(
        `const desk = arguments[0].closest('.desk');
         desk.scrollTo(Math.max(0, arguments[1] - desk.clientWidth + 60), Math.max(0, arguments[2] - desk.clientHeight + 60));
         const page = arguments[0].getBoundingClientRect();
         return [page.left + arguments[1], page.top + arguments[2]].map(Math.round)`,
        canvas,
        ((x0 + x1) / 2) * scale,
        ((y0 + y1) / 2) * scale,
      );
    };
    // A page that was just opened is scrolled to its table a moment later.
    let at = await bringToSight();
    await this.until('the paper to stand still', async () => {
      await this.driver.sleep(150);
      const before = at;
      at = await bringToSight();
      return String(at) === String(before);
    });
    await this.driver.actions().move({ x: at[0], y: at[1] }).click().perform();
  }

  /** Pixels a point: the drawn page beside its size in points. */
  scale = () =>
    this.driver.executeScript<number>(
      'const c = document.querySelector("sieve-paper canvas"); return c.getBoundingClientRect().width / arguments[0]',
      595.28,
    );

  /** The frames laid over the paper, in pixels from the page's corner. */
  frames = () =>
    this.driver.executeScript<{ left: number; top: number; right: number; bottom: number }[]>(
      `const page = document.querySelector('sieve-paper canvas').getBoundingClientRect();
       return [...document.querySelectorAll('sieve-paper .frame')].map((e) => e.getBoundingClientRect()).map((b) => ({ left: b.left - page.left, top: b.top - page.top, right: b.right - page.left, bottom: b.bottom - page.top }))`,
    );
}

export class Dataset extends SheetPlace {
  heading = () => this.text('[aria-label="Published rows"] .pane-head');
  headingIs = (pattern: RegExp) => this.untilText('[aria-label="Published rows"] .pane-head', pattern);
  rows = () => this.fetched('sieve-grid tbody tr:not(.space)');
  problems = () => this.texts('.list li');
}

export class Runs extends Place {
  runs = () => this.texts('sieve-runs-page li');
  reports = () => this.texts('sieve-runs-page tbody tr');
}
