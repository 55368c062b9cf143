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
