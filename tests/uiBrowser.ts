// The browser that screens are tested in is a British one: it writes days before months, and its weeks begin on Mondays.
Object.defineProperty(navigator, "language", { value: "en-GB", configurable: true });
