// The browser that screens are tested in is a British one: it writes days before months, and its weeks begin on Mondays.
Object.defineProperty(navigator, "language", { value: "en-GB", configurable: true });

// It is light, as long as a test says nothing else: jsdom knows of no media.
globalThis.matchMedia ??= () => Object.assign(new EventTarget(), { matches: false }) as MediaQueryList;
