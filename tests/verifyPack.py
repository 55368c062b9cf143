"""Verifies an evidence pack, written from the description of packs alone; it shares nothing with the application.

Signatures are left to openssl. Prints "holds", or the first thing that doesn't hold.
"""
import base64, csv, hashlib, io, json, re, subprocess, sys, tempfile, zipfile


def need(holds, words):
    if not holds:
        print(words)
        sys.exit(1)


def sha(data):
    return hashlib.sha256(data).digest()


def canonical(value):
    """RFC 8785 for what packs hold: texts, whole numbers, booleans, null, lists, objects with keys in ASCII."""
    return json.dumps(value, ensure_ascii=False, sort_keys=True, separators=(",", ":"))


def root_by(leaf, index, size, path):
    """RFC 9162, 2.1.3.2."""
    fn, sn, r = index, size - 1, leaf
    for p in path:
        need(sn != 0, "a proof is too long")
        if fn & 1 or fn == sn:
            r = sha(b"\x01" + p + r)
            while not fn & 1 and fn:
                fn, sn = fn >> 1, sn >> 1
        else:
            r = sha(b"\x01" + r + p)
        fn, sn = fn >> 1, sn >> 1
    need(sn == 0, "a proof is too short")
    return r


def consistent(first, second, first_root, second_root, proof):
    """RFC 9162, 2.1.4.2."""
    if first == second:
        return not proof and first_root == second_root
    path = ([first_root] if first & (first - 1) == 0 else []) + proof
    fn, sn = first - 1, second - 1
    while fn & 1:
        fn, sn = fn >> 1, sn >> 1
    fr = sr = path[0]
    for c in path[1:]:
        if sn == 0:
            return False
        if fn & 1 or fn == sn:
            fr, sr = sha(b"\x01" + c + fr), sha(b"\x01" + c + sr)
            while not fn & 1 and fn:
                fn, sn = fn >> 1, sn >> 1
        else:
            sr = sha(b"\x01" + sr + c)
        fn, sn = fn >> 1, sn >> 1
    return sn == 0 and fr == first_root and sr == second_root


def signed(text, signature, key):
    with tempfile.TemporaryDirectory() as folder:
        der = bytes.fromhex("302a300506032b6570032100") + key
        for name, data in [("key", der), ("text", text), ("signature", signature)]:
            with open(f"{folder}/{name}", "wb") as file:
                file.write(data)
        verify = ["openssl", "pkeyutl", "-verify", "-pubin", "-keyform", "DER", "-inkey", "key", "-rawin"]
        done = subprocess.run(verify + ["-in", "text", "-sigfile", "signature"], cwd=folder, capture_output=True)
        return done.returncode == 0


def note(text, keys, newest):
    head, tail = text.split("\n\n", 1)
    origin, size, root = head.split("\n")
    signatures = {}
    for line in tail.splitlines():
        dash, name, data = line.split(" ")
        raw = base64.b64decode(data)
        need(dash == "\u2014" and name == origin, "a signature is by another name")
        signatures[raw[:4]] = raw[4:]
    good = [k for k in keys if k[0] in signatures and signed((head + "\n").encode(), signatures[k[0]], k[1])]
    need(keys[0] in good if newest else good, f"the checkpoint of {size} isn't signed")
    return int(size), base64.b64decode(root)


def lines(data):
    text = data.decode("utf-8")
    need(text == "" or text.endswith("\n"), "a line isn't ended")
    return [json.loads(line) for line in text.split("\n")[:-1]], text.split("\n")[:-1]


pack = zipfile.ZipFile(sys.argv[1])
names = pack.namelist()
need(len(set(names)) == len(names), "two files have one path")
files = {name: pack.read(name) for name in names}
fixed = "README.txt manifest.json register.csv findings.csv waivers.csv rules.json events.csv dockets.csv receipts.csv rounds.csv decisions.csv readings.csv report.pdf verify.html key.txt ledger/entries.jsonl ledger/proofs.jsonl ledger/checkpoint.txt ledger/consistency.jsonl ledger/key.pem".split()
for name in names:
    known = name in fixed or name == "ledger/details.jsonl"
    need(known or re.fullmatch(r"estate/\d{4}-\d\d-\d\d\.jsonl|ledger/checkpoints/[1-9]\d*\.txt", name), f"{name} is unknown")
for name in fixed:
    need(name in files, f"{name} is missing")

manifest = json.loads(files["manifest.json"])
need(canonical(manifest).encode() == files["manifest.json"], "the manifest isn't canonical")
keys_of = {"version", "house", "scope", "from", "to", "madeAt", "madeBy", "pseudonyms", "files"}
need(set(manifest) == keys_of and manifest["version"] == 1, "the manifest has other keys")
listed = [one["path"] for one in manifest["files"]]
rest = sorted(n for n in names if n not in ("manifest.json", "key.txt") and not n.startswith("ledger/"))
need(listed == rest, "the manifest lists other files")
for one in manifest["files"]:
    data = files[one["path"]]
    need(one["bytes"] == len(data) and one["sha256"] == sha(data).hex(), f"{one['path']} is another")
for day in (manifest["from"], manifest["to"]):
    need(f"estate/{day}.jsonl" in files, f"the estate on {day} is missing")
for name in names:
    if name.endswith(".csv"):
        rows = list(csv.reader(io.StringIO(files[name].decode("utf-8"), newline="")))
        need(all(len(row) == len(rows[0]) for row in rows), f"{name} has lines of other lengths")

keys = []
for line in files["key.txt"].decode().splitlines():
    name, rest_of = line.split("+", 1)
    number, key = rest_of.split("+", 1)
    raw = base64.b64decode(key)
    need(raw[0] == 1 and sha(f"{name}\n".encode() + raw)[:4].hex() == number, "a key has another id")
    keys.append((bytes.fromhex(number), raw[1:]))
pem = subprocess.run(["openssl", "pkey", "-pubin", "-outform", "DER"], input=files["ledger/key.pem"], capture_output=True)
need(pem.stdout[-32:] == keys[0][1], "key.pem is another key")

size, root = note(files["ledger/checkpoint.txt"].decode(), keys, True)
earlier = {}
for name in names:
    found = re.fullmatch(r"ledger/checkpoints/(\d+)\.txt", name)
    if found:
        number, earlier_root = note(files[name].decode(), keys, False)
        need(number == int(found[1]), f"{name} is of another size")
        earlier[number] = earlier_root

entries, texts = lines(files["ledger/entries.jsonl"])
proofs, _ = lines(files["ledger/proofs.jsonl"])
need(len(entries) == len(proofs) > 0, "there isn't one proof an entry")
before = None
for entry, text, proof in zip(entries, texts, proofs):
    need(canonical(entry) == text, f"entry {entry['seq']} isn't canonical")
    need(set(entry) == {"seq", "at", "actor", "kind", "body", "previous", "hash"}, "an entry has other keys")
    without = {k: v for k, v in entry.items() if k != "hash"}
    need(sha(canonical(without).encode()).hex() == entry["hash"], f"entry {entry['seq']} has another hash")
    need(before is None or (entry["previous"], entry["seq"]) == before, f"entry {entry['seq']} doesn't follow")
    before = (entry["hash"], entry["seq"] + 1)
    leaf = sha(b"\x00" + text.encode())
    need(proof["seq"] == entry["seq"] - 1 and proof["leaf"] == leaf.hex(), "a proof is another's")
    path = [bytes.fromhex(one) for one in proof["path"]]
    need(root_by(leaf, proof["seq"], size, path) == root, f"entry {entry['seq']} isn't in the checkpoint")
last = entries[-1]
need(last["kind"] == "pack-made" and last["body"]["manifest"] == sha(files["manifest.json"]).hex(), "it is another pack")

seen = []
for line in lines(files["ledger/consistency.jsonl"])[0]:
    proof = [bytes.fromhex(one) for one in line["proof"]]
    need(line["to"] == size and line["from"] in earlier, "a consistency line is about nothing")
    need(consistent(line["from"], size, earlier[line["from"]], root, proof), "the ledger was rewritten")
    seen.append(line["from"])
need(sorted(seen) == sorted(earlier), "a consistency line is missing, or is there twice")

by_number = {entry["seq"]: entry for entry in entries}
need(("ledger/details.jsonl" in files) != manifest["pseudonyms"], "details are there where they shouldn't, or aren't")
for one in lines(files.get("ledger/details.jsonl", b""))[0]:
    digest = sha(bytes.fromhex(one["salt"]) + canonical(one["detail"]).encode()).hex()
    need(by_number[one["seq"]]["body"]["detail"] == digest, f"the detail of entry {one['seq']} is another")
print("holds")
