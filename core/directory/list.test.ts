import { seconds } from "../time/instant";
import { readPeopleList } from "./list";

test("a list is read by the names of its columns, whatever their order, case and delimiter", () => {
  const read = readPeopleList("\uFEFFName;Department;ADDRESS;Last day\r\nIda;Strings;Ida@Home.example;2026-12-31\r\n");
  expect(read.problems).toEqual([]);
  expect(read.rows).toEqual([
    {
      ...{ line: 2, address: "ida@home.example", name: "Ida", department: "Strings" },
      ...{ lastDay: seconds("2026-12-31T23:59:59Z") },
      ...{ status: undefined, manager: undefined, suspendedOn: undefined, groups: undefined },
    },
  ]);
  expect(read.hasGroups).toBe(false);
});

// RFC 4180, section 2, rules 5 to 7: fields in quotes may hold commas, line ends and doubled quotes.
test("quoted fields hold commas, quotes and line ends", () => {
  const { rows } = readPeopleList(
    'address,name,groups\n"ida@home.example","Ida ""the bow"", first\nviolin","Strings; Tour"\n',
  );
  expect(rows.map(({ name, groups }) => [name, groups])).toEqual([
    ['Ida "the bow", first\nviolin', ["Strings", "Tour"]],
  ]);
});

test("an empty cell says that there is nothing; a column that isn't there says nothing", () => {
  const [row] = readPeopleList("address,department\nida@home.example,\n").rows;
  expect([row.department, row.name]).toEqual([null, undefined]);
});

test.each([
  ["name\nIda\n", 1, /first line must name the columns, with address/],
  ["address,address\na@home.example,b\n", 1, /address is there twice/],
  ["address,status\na@home.example,retired\n", 2, /status "retired" must be one of active, suspended, left/],
  ["address\nnobody\n", 2, /address "nobody" must be an e-mail address/],
  ["address,last_day\na@home.example,31.12.2026\n", 2, /last_day "31.12.2026" must be a day such as/],
  ["address,last_day\na@home.example,2026-02-30\n", 2, /last_day "2026-02-30" must be a day/],
  ["address\n", 2, /nobody in it/],
  ["", 1, /first line must name the columns/],
])("%j can't be read, and it says where and why", (file, line, message) => {
  expect(readPeopleList(file).problems).toEqual([{ line, message: expect.stringMatching(message) }]);
});

test("every bad line is told, not only the first", () => {
  const { problems } = readPeopleList("address\nx\nida@home.example\ny\n");
  expect(problems.map(({ line }) => line)).toEqual([2, 4]);
});

test("what is odd does no harm: an address twice, and columns that aren't known", () => {
  const read = readPeopleList("address,shoe size,name\na@home.example,43,First\nA@home.example,44,Second\n");
  expect(read.rows.map(({ name }) => name)).toEqual(["First"]);
  expect(read.problems).toEqual([]);
  expect(read.remarks).toEqual([
    { line: 1, message: expect.stringContaining("shoe_size isn’t known") },
    { line: 3, message: expect.stringContaining("is already on line 2") },
  ]);
});
