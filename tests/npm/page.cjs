// Opens a page in a browser, as its users do: node page.cjs BROWSER PAGE WORD
// Nothing may be fetched or complain; the filter, the keys and both colours must work; no accessibility rule may be
// broken. WORD is one that only some of its items hold. Prints what is wrong.
const fs = require("fs");
const puppeteer = require("puppeteer-core");
const axe = fs.readFileSync(require.resolve("axe-core/axe.min.js"), "utf8");
const [browserPath, file, word] = process.argv.slice(2);

(async () => {
  const wrong = [];
  const expect = (good, what) => { if (!good) wrong.push(what); };
  const browser = await puppeteer.launch({
    executablePath: browserPath, headless: true, args: ["--no-sandbox", "--disable-gpu", "--disable-dev-shm-usage"],
  });
  const page = await browser.newPage();
  await page.setViewport({ width: 1280, height: 800 });
  page.on("console", (message) => { if (message.type() === "error") wrong.push("console: " + message.text()); });
  page.on("pageerror", (error) => wrong.push("error: " + error.message));
  page.on("request", (request) => {
    if (!request.url().startsWith("file:") && !request.url().startsWith("data:")) wrong.push("fetches " + request.url());
  });
  await page.goto("file://" + file);
  const shown = () => page.$$eval(".item", (items) => items.filter((item) => !item.hidden).length);
  const all = await shown();
  expect(all > 1, "has " + all + " items");
  await page.keyboard.press("/");
  expect(await page.evaluate(() => document.activeElement.id === "filter"), "\"/\" does not lead to the filter");
  await page.keyboard.type(word);
  const some = await shown();
  expect(some > 0 && some < all, `the filter "${word}" shows ${some} of ${all}`);
  const status = await page.$eval("#shown", (node) => node.textContent);
  expect(status === `${some} of ${all} shown`, "says: " + status);
  await page.keyboard.press("Escape");
  expect((await shown()) === all, "Escape does not take the filter away");
  await page.$$eval("details", (all) => all.forEach((one) => { one.open = true; }));
  await page.keyboard.press("j");
  await page.keyboard.press("j");
  const at = await page.evaluate(() => [...document.querySelectorAll(".item")].indexOf(document.activeElement));
  expect(at === 1, "\"j\" twice leads to item " + at);
  await page.keyboard.press("k");
  expect((await page.evaluate(() => [...document.querySelectorAll(".item")].indexOf(document.activeElement))) === 0, "\"k\" does not lead back");
  const boxes = await page.$$("input[name=kind]");
  if (boxes.length > 0) {
    await boxes[0].click();
    expect((await shown()) < all, "a kind is shown that is not wanted");
    await boxes[0].click();
  }
  await page.evaluate(axe);
  for (const colours of ["light", "dark"]) {
    const paper = await page.evaluate(() => getComputedStyle(document.body).backgroundColor);
    const result = await page.evaluate(() => axe.run(document));
    for (const violation of result.violations)
      wrong.push(`${colours}: ${violation.id}: ${violation.help}: ${violation.nodes[0].html.slice(0, 120)}`);
    await page.evaluate(() => document.activeElement.blur());
    await page.keyboard.press("d");
    if (colours === "light")
      expect(paper !== (await page.evaluate(() => getComputedStyle(document.body).backgroundColor)), "\"d\" does not turn the colours");
  }
  await browser.close();
  for (const one of wrong) console.log(one);
  process.exit(wrong.length > 0 ? 1 : 0);
})().catch((error) => { console.log(String(error)); process.exit(2); });
