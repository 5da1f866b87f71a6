import { By, Key, until, type WebDriver, type WebElement } from 'selenium-webdriver';
import { escaped } from '../../core/values/escaped';

/** Milliseconds from one look to the next while something is waited for. */
const pause = 100;

const literally = (text: string) => new RegExp(`^${escaped(text)}$`);

/** What all page objects do: find by what a user reads, and wait for what a user waits for. */
export class Page {
  constructor(
    protected readonly driver: WebDriver,
    private readonly patience = 120_000,
  ) {}

  /** The first element that the selector finds, once it is there. */
  find(css: string): Promise<WebElement> {
    return this.driver.wait(until.elementLocated(By.css(css)), this.patience, `nothing like ${css} came`, pause);
  }

  async all(css: string): Promise<WebElement[]> {
    return this.driver.findElements(By.css(css));
  }

  /** Texts of all elements as they are now; elements renewed meanwhile do not break it. */
  texts(css: string): Promise<string[]> {
    return this.driver.executeScript(
      'return [...document.querySelectorAll(arguments[0])].map((e) => e.innerText.replace(/\\s+/g, " ").trim())',
      css,
    );
  }

  /** The same of rows whose cells have come: one that is drawn and still waits for them says nothing. */
  fetched = async (css: string): Promise<string[]> => (await this.texts(css)).filter((text) => text !== '');

  async text(css: string): Promise<string> {
    return (await this.texts(css))[0] ?? '';
  }

  /** The first element in sight that says this, or else is called so, if there is one. */
  saying(css: string, wanted: RegExp): Promise<WebElement | null> {
    return this.driver.executeScript(
      `const [css, source, flags] = arguments;
       const wanted = new RegExp(source, flags);
       const says = (e) => (e.innerText || e.getAttribute('aria-label') || '').replace(/\\s+/g, ' ').trim();
       return [...document.querySelectorAll(css)].find((e) => e.checkVisibility({ visibilityProperty: true }) && !e.matches(':disabled') && wanted.test(says(e))) ?? null`,
      css,
      wanted.source,
      wanted.flags,
    );
  }

  /** @param what is waited for, told when it does not come */
  async until(what: string, true_: () => Promise<boolean>, patience = this.patience): Promise<void> {
    await this.driver.wait(async () => true_().catch(() => false), patience, `waited for: ${what}`, pause);
  }

  async untilText(css: string, pattern: RegExp, patience = this.patience): Promise<void> {
    let said = '';
    await this.until(
      `${css} to say ${pattern}`,
      async () => pattern.test((said = await this.text(css))),
      patience,
    ).catch((error: Error) => {
      throw new Error(`${error.message}\nIt says “${said.slice(0, 200)}”.`);
    });
  }

  /** Clicks the first element in sight that says this, once there is one. */
  async click(css: string, wanted: RegExp, what = `${css} that says ${wanted}`): Promise<void> {
    await this.until(what, async () => {
      const found = await this.saying(css, wanted);
      return found !== null && (await this.reached(found));
    });
  }

  /** Clicks the first element that the selector finds, or the one that is found anew at each try. */
  async clickOn(wanted: string | (() => Promise<WebElement>)): Promise<void> {
    const found = typeof wanted === 'string' ? () => this.find(wanted) : wanted;
    await this.until(`a click on ${wanted} to reach it`, async () => this.reached(await found()));
  }

  /**
   * Clicks an element once it stands still, as a user does.
   * @returns whether the click came to it: what moves from under the mouse lets it go beside, and has to be clicked once more
   */
  private async reached(element: WebElement): Promise<boolean> {
    await this.driver.executeAsyncScript(
      `const [element, done] = arguments;
       const place = () => Object.values(element.getBoundingClientRect().toJSON()).join();
       const settle = (before, frames) => requestAnimationFrame(() => (place() === before || frames === 0 ? done() : settle(place(), frames - 1)));
       window.clicked = undefined;
       addEventListener('click', (event) => (window.clicked = event.composedPath().includes(element)), { capture: true, once: true });
       settle(place(), 30);`,
      element,
    );
    await element.click();
    // Another page knows nothing of it: then the click led there.
    return this.driver.executeScript<boolean>('return window.clicked !== false');
  }

  /** Presses the button or link that says this, inside `within`. */
  async press(label: string | RegExp, within = 'body'): Promise<void> {
    await this.click(
      `:is(${within}) :is(button, a, p-togglebutton)`,
      label instanceof RegExp ? label : literally(label),
      `a button “${label}” in ${within}`,
    );
  }

  /** Chooses the option that says this, in the list that the selector finds. */
  async pick(css: string, option: string): Promise<void> {
    await this.until(`the option ${option} in ${css}`, async () => {
      // What the list stands in may be renewed as it opens: then it is opened once more.
      await this.openList(css);
      const found = await this.saying('.p-select-overlay [role="option"]', literally(option));
      return found !== null && (await this.reached(found));
    });
    await this.until('the list to close', async () => (await this.all('.p-select-overlay')).length === 0);
  }

  /** Opens a list, goes to an option and takes it, all by keys. */
  async pickByKeys(css: string, ...keys: readonly string[]): Promise<void> {
    const list = await this.find(css);
    // An option that comes to lie under the mouse would be the one gone from.
    await this.driver.actions().move({ x: 2, y: 2 }).perform();
    await list.sendKeys(Key.ENTER);
    await this.until(
      `the list ${css} to open`,
      async () => (await this.all('.p-select-overlay [role="option"]')).length > 0,
    );
    for (const key of keys) await list.sendKeys(key);
    await list.sendKeys(Key.ENTER);
    await this.until('the list to close', async () => (await this.all('.p-select-overlay')).length === 0);
  }

  /** Opens a list. A second click would close it: it comes only when the first has led to nothing, as what was clicked was just being renewed. */
  private async openList(css: string): Promise<void> {
    const isOpen = async () => (await this.all('.p-select-overlay')).length > 0;
    await this.until(`the list ${css} to open`, async () => {
      if (await isOpen()) return true;
      await this.reached(await this.find(css));
      return this.driver.wait(isOpen, 2_000).catch(() => false);
    });
  }

  /** Ticks columns in the list of a choice of columns. */
  tickColumns = (title: string, ...names: readonly string[]) =>
    this.tickList(`Columns of ${title}`, names, '[aria-label="Sheet"] h2');

  /** Ticks options of the list that is called so; how often each comes may stand behind it. @param beside what is pressed to close it */
  async tickList(label: string, names: readonly string[], beside: string): Promise<void> {
    await this.clickOn(`.p-multiselect:has([aria-label="${label}"])`);
    for (const name of names)
      await this.click(
        '.p-multiselect-overlay [role="option"]',
        new RegExp(`^${escaped(name)}(?: · [\\d,]+)?$`),
        `the option ${name}`,
      );
    // A press beside it closes the list, once it has opened in full.
    await this.until('the list to close', async () => {
      if ((await this.all('.p-multiselect-overlay')).length === 0) return true;
      await this.reached(await this.find(beside));
      return false;
    });
  }

  /** Chooses a folder in a tree of folders by its name. */
  async chooseFolder(name: string, within: string): Promise<void> {
    await this.click(
      `${within} .p-tree-node-label`,
      new RegExp(`^(?:.*/)?${escaped(name)}(?: · .*)?$`),
      `the folder ${name} in ${within}`,
    );
  }

  async fill(css: string, text: string): Promise<void> {
    const field = await this.find(css);
    // A field for numbers is never blank: what is written takes the place of what stood there.
    if ((await field.getAttribute('role')) === 'spinbutton') return field.sendKeys(Key.chord(Key.CONTROL, 'a'), text);
    await field.clear();
    await field.sendKeys(text);
  }
}
