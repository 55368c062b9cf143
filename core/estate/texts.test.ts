import fc from "fast-check";
import { Ids } from "./ids";
import { Texts } from "./texts";

const words = fc.array(fc.string({ unit: "grapheme" }), { maxLength: 40 });

test("a list of texts stays what it is, packed or not, with what is changed and added after", () => {
  fc.assert(
    fc.property(words, words, fc.array(fc.tuple(fc.nat(), fc.string())), (before, after, changes) => {
      const texts = new Texts();
      const model = [...before];
      for (const text of before) texts.add(text);
      const again = new Texts(texts.pack());
      for (const text of after) model[again.add(text)] = text;
      for (const [at, text] of model.length > 0 ? changes : []) {
        again.set(at % model.length, text);
        model[at % model.length] = text;
      }
      expect([[...again], again.count]).toEqual([model, model.length]);
      again.pack();
      expect([...again]).toEqual(model);
    }),
  );
});

test("of many texts only the blocks in which something is new are packed again", () => {
  const text = (index: number) => (index % 3 === 0 ? "" : `${index} é ${index % 7 === 0 ? "ж" : ""}`);
  const model = Array.from({ length: 150_000 }, (_, index) => text(index));
  const texts = new Texts();
  const isNumbered = model.every((one, index) => texts.add(one) === index);
  const before = texts.pack();
  expect([isNumbered, ...before.map(({ ends }) => ends.length)]).toEqual([true, 65_536, 65_536, 18_928]);
  expect(differing(texts, model)).toEqual([]);

  const copy = texts.copy();
  model[70_000] = "another";
  texts.set(70_000, "another");
  expect(texts.add("one more")).toBe(model.push("one more") - 1);
  const after = texts.pack();
  expect(after[0]).toBe(before[0]);
  expect(differing(new Texts(after), model)).toEqual([]);
  expect([copy.count, copy.get(70_000)]).toEqual([150_000, text(70_000)]);
});

/** Where a list doesn't say what it should. */
function differing(texts: Texts, model: readonly string[]): number[] {
  const longer = Math.max(texts.count, model.length);
  return Array.from({ length: longer }, (_, index) => index).filter((index) => texts.get(index) !== model[index]);
}

test("an id is found by its text, before and after packing, however many there are", () => {
  fc.assert(
    fc.property(fc.uniqueArray(fc.string(), { maxLength: 60 }), fc.string(), (known, other) => {
      const ids = new Ids();
      for (const text of known) ids.add(text);
      const again = Ids.of(ids.pack());
      for (const list of [ids, again]) {
        expect(known.map((text) => list.find(text))).toEqual(known.map((_, number) => number));
        expect(list.find(other)).toBe(known.includes(other) ? known.indexOf(other) : undefined);
      }
      if (!known.includes(other)) expect([again.add(other), again.find(other)]).toEqual([known.length, known.length]);
    }),
  );
});
