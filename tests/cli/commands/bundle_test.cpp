// A study sealed in a zip, by the real programs: what is not in it, and whatever is changed afterwards.
#include <gtest/gtest.h>

#include <filesystem>

#include <nlohmann/json.hpp>

#include "support/programs.h"

namespace {

using nlohmann::json;
using support::Outcome;

// Changes one thing, then lists and seals everything anew: what only working it out again finds.
constexpr const char* kForger = R"py(
import hashlib, json, re, sqlite3, struct, sys, tempfile, zipfile, zlib
source, target, what = sys.argv[1:]
old = zipfile.ZipFile(source)
files = {name: old.read(name) for name in old.namelist()}
def digit(name, pattern):
    text = files[name].decode()
    at = re.search(pattern, text).start(1)
    files[name] = (text[:at] + str((int(text[at]) + 1) % 10) + text[at + 1:]).encode()
def row_sum(*values):
    sum = 0
    for value in values:
        kind, data = (('n', b'') if value is None else ('i', struct.pack('<q', value)) if isinstance(value, int) else
                      ('r', struct.pack('<d', value)) if isinstance(value, float) else
                      ('t', value.encode()) if isinstance(value, str) else ('b', bytes(value)))
        sum = zlib.crc32(kind.encode() + struct.pack('<Q', len(data)) + data, sum)
    return sum
if what == 'pass':
    with tempfile.NamedTemporaryFile() as file:
        file.write(files['study.ironlever']); file.flush()
        study = sqlite3.connect(file.name)
        study.create_function('row_sum', -1, row_sum)
        columns = [row[1] for row in study.execute('PRAGMA table_info(pass)')]
        order = ('id, visit_id, slot, attempt, status, failure, started_ms, duration_s, value, frames, output, '
                 'error_output, loads, others_busy, settings, samples, presentation, typed, origin, frame_count')
        assert study.execute('SELECT count(*) FROM pass WHERE sum IS row_sum(%s)' % order).fetchone()[0] > 0
        study.execute('UPDATE pass SET value = value * 1.01 WHERE id = 3')
        study.execute('UPDATE pass SET sum = row_sum(%s) WHERE id = 3' % order)
        study.commit(); study.close()
        files['study.ironlever'] = open(file.name, 'rb').read()
elif what == 'capture':
    name = next(name for name in files if name.startswith('captures/'))
    files[name] = files[name].replace(b'Quarry 8', b'Quarry 9')
elif what == 'chart': digit('chart.svg', r'([0-9])[0-9]*\.?[0-9]* ?%')
elif what == 'page': digit('report.html', r'<h1>[^<]*?([0-9])\.[0-9] ?')
elif what == 'table': digit('findings.csv', r'[0-9]\.([0-9])')
elif what == 'log': files[next(name for name in files if name.startswith('logs/'))] += b' '
elif what == 'extra': files['also.txt'] = b'more'
elif what == 'climb': files['../../climbs.txt'] = b'out of it'
elif what == 'gone': del files['findings.json']
elif what == 'unpacked-bomb': files['zeros.txt'] = b'0' * (64 << 20)
manifest = json.loads(files.pop('manifest.json'))
manifest['files'] = [{'name': name, 'bytes': len(data), 'sha256': hashlib.sha256(data).hexdigest()}
                     for name, data in files.items()]
files['manifest.json'] = json.dumps(manifest).encode()
with zipfile.ZipFile(target, 'w') as new:
    for name, data in files.items():
        new.writestr(name, data, zipfile.ZIP_DEFLATED if what == 'unpacked-bomb' and name == 'zeros.txt' else zipfile.ZIP_STORED)
    if what == 'twice': new.writestr('report.html', files['report.html'])
    if what == 'manifest':
        new.writestr('manifest.json', files['manifest.json'])
    if what == 'link':
        link = zipfile.ZipInfo('link.txt'); link.create_system = 3; link.external_attr = 0o120777 << 16
        new.writestr(link, '/etc/passwd')
    new.comment = b'Sealed by Iron Lever. SHA-256 of all bytes before these 64 digits: ' + b'0' * 64
data = open(target, 'rb').read()
open(target, 'wb').write(data[:-64] + hashlib.sha256(data[:-64]).hexdigest().encode())
)py";

class Bundle : public support::ProgramsTest {
 protected:
  Bundle() {
    std::filesystem::create_directories(folder_ / "machine/proc/sys/kernel/random");
    folder_.write("machine/proc/cpuinfo", "processor\t: 0\nmodel name\t: Quarry 8\n");
    folder_.write("machine/proc/sys/kernel/random/boot_id", "6d1f3f0e-1111-4222-8333-944455556666\n");
    environment_.insert(QStringLiteral("IRON_LEVER_PERSON"), QStringLiteral("osei"));
    // Planted: the first pass is long enough for a capture under load, which a bundle filed as the one at the end.
    const std::string script =
        R"sh(n=$(cat n 2>/dev/null || echo 0); n=$((n+1)); echo $n > n; [ $n = 1 ] && sleep 2; echo "run by osei from /home/osei/bench at 52:54:00:12:34:56"; echo "{\"score\": $((BASE + n % 5))}")sh";
    const auto level = [](const char* name, const char* base) {
      return json{{"name", name}, {"environment", {{"BASE", base}, {"NOTES", "/home/osei/notes.txt"}}}};
    };
    const json design{{"bench", "Dome node 3"},
                      {"machine", "machine"},
                      {"variable", "factor"},
                      {"levels", {level("one", "1000"), level("two", "1100")}},
                      {"cases",
                       {{{"workload", "Star survey"},
                         {"preset", "4K dome"},
                         {"command", {"sh", "-c", script}},
                         {"result", "json_field"},
                         {"field", "score"},
                         {"metric", {{"name", "score"}, {"unit", "points"}, {"direction", "higher"}}}}}},
                      {"plan", {{"order", "rounds"}, {"rounds", 4}, {"passes_per_visit", 2}, {"warm_ups", 0}}}};
    folder_.write("d.json", design.dump());
  }
  [[nodiscard]] Outcome call(const std::vector<std::string>& words) const {
    QStringList arguments;
    for (const std::string& word : words) arguments << QString::fromStdString(word);
    return cli(arguments);
  }
  void seal(const std::vector<std::string>& more = {}) const {
    runExample(QStringLiteral("d.json"), QStringLiteral("s.ironlever"));
    ASSERT_EQ(call({"note", "s.ironlever", "osei looked at /home/osei/notes.txt"}).code, 0);
    std::vector<std::string> words{"bundle", "s.ironlever", "--out", "b.zip", "--json"};
    words.insert(words.end(), more.begin(), more.end());
    const Outcome sealed = call(words);
    ASSERT_EQ(sealed.code, 0) << sealed.err;
  }
  [[nodiscard]] json verified(const std::string& path, int code) const {
    const Outcome out = call({"verify", path, "--json"});
    EXPECT_EQ(out.code, code) << out.out << out.err;
    return json::parse(out.out, nullptr, false);
  }
  [[nodiscard]] json forged(const char* what) const {
    QProcess python;
    python.setWorkingDirectory(QString::fromStdString(folder_.path()));
    python.start(QStringLiteral("python3"), {QStringLiteral("-c"), QLatin1String(kForger), QStringLiteral("b.zip"),
                                             QStringLiteral("f.zip"), QLatin1String(what)});
    EXPECT_TRUE(python.waitForFinished(60000) && python.exitCode() == 0)
        << what << python.readAllStandardError().toStdString();
    return verified("f.zip", std::string(what) == "nothing" ? 0 : 1);
  }
};

TEST_F(Bundle, IsWorkedOutAgainAndFindsWhateverWasChanged) {
  seal();
  const json whole = verified("b.zip", 0);
  EXPECT_TRUE(whole["ok"]);
  EXPECT_EQ(whole["checked"]["passes"], 16);
  EXPECT_GT(whole["checked"]["numbers"], 500);
  EXPECT_TRUE(forged("nothing")["ok"]) << "the forger seals as well as we do";
  const auto names = [&](const json& check, const std::string& where) {
    for (const json& one : check["differences"])
      if (one["where"].get<std::string>().starts_with(where)) return true;
    return false;
  };
  QProcess listing;
  listing.start(QStringLiteral("python3"), {QStringLiteral("-m"), QStringLiteral("zipfile"), QStringLiteral("-l"),
                                            QString::fromStdString(folder_ / "b.zip")});
  ASSERT_TRUE(listing.waitForFinished());
  EXPECT_TRUE(listing.readAllStandardOutput().contains("captures/visit-1-under-load.json"));
  for (const auto& [what, where] : {std::pair("pass", "report.html, number"),
                                    {"capture", "captures/visit-1"},
                                    {"chart", "chart.svg, number"},
                                    {"page", "report.html, number"},
                                    {"table", "findings.csv, number"},
                                    {"log", "logs/pass-"},
                                    {"extra", "also.txt"},
                                    {"climb", "../../climbs.txt"},
                                    {"gone", "findings.json"},
                                    {"unpacked-bomb", "zeros.txt"},
                                    {"twice", "f.zip"},
                                    {"manifest", "f.zip"},
                                    {"link", "link.txt"}}) {
    const json check = forged(what);
    EXPECT_FALSE(check["ok"]) << what;
    EXPECT_TRUE(names(check, where)) << what << check["differences"];
  }
  EXPECT_FALSE(std::filesystem::exists(folder_ / "../../climbs.txt"));
  // Printed and worked out stand beside each other, and so for reading.
  const json page = forged("page")["differences"][0];
  EXPECT_NE(page["printed"], page["recomputed"]);
  EXPECT_NE(call({"verify", "f.zip"}).out.find("follows from the passes"), std::string::npos);
  EXPECT_EQ(call({"verify", "absent.zip"}).code, 1);
  EXPECT_EQ(call({"verify", "d.json"}).code, 1);
}

// Planted: somebody is called as the format of a design calls its parts.
TEST_F(Bundle, IsWholeWhateverSomebodyIsCalled) {
  for (const char* person : {"bench", "levels", "note", "Al", "command"}) {
    environment_.insert(QStringLiteral("IRON_LEVER_PERSON"), QLatin1String(person));
    std::filesystem::remove(folder_ / "s.ironlever");
    seal();
    EXPECT_TRUE(verified("b.zip", 0)["ok"]) << person;
    QProcess python;
    python.setWorkingDirectory(QString::fromStdString(folder_.path()));
    python.start(QStringLiteral("python3"),
                 {QStringLiteral("-c"),
                  QStringLiteral("import sqlite3, zipfile\n"
                                 "open('i.ironlever', 'wb').write(zipfile.ZipFile('b.zip').read('study.ironlever'))\n"
                                 "print(*{row[0] for row in sqlite3.connect('i.ironlever').execute('SELECT person FROM "
                                 "event')})")});
    ASSERT_TRUE(python.waitForFinished());
    EXPECT_EQ(python.readAllStandardOutput().trimmed().toStdString().find(person), std::string::npos) << person;
    EXPECT_EQ(call({"status", "i.ironlever"}).code, 0) << person;
  }
}

TEST_F(Bundle, SaysNothingOfPersonsButWhatWasKept) {
  seal();
  const char* const reader = R"py(
import io, sys, zipfile
z = zipfile.ZipFile('b.zip')
import subprocess, sqlite3, os
open('inside.ironlever', 'wb').write(z.read('study.ironlever'))
for name in z.namelist():
    for word in sys.argv[1:]:
        if word.encode() in z.read(name): print(name, word)
)py";
  const auto found = [&](const QStringList& words) {
    QProcess python;
    python.setWorkingDirectory(QString::fromStdString(folder_.path()));
    python.start(QStringLiteral("python3"), QStringList{QStringLiteral("-c"), QLatin1String(reader)} + words);
    EXPECT_TRUE(python.waitForFinished()) << "python3";
    return python.readAllStandardOutput().toStdString() + python.readAllStandardError().toStdString();
  };
  const QStringList personal{QStringLiteral("osei"), QStringLiteral("52:54:00:12:34:56"),
                             QStringLiteral("6d1f3f0e-1111-4222-8333-944455556666"), QStringLiteral("/home/")};
  EXPECT_EQ(found(personal), "");
  // What is packed in the study too: what it lists of itself names nobody.
  const json inside = json::parse(call({"personal", "inside.ironlever", "--json"}).out);
  for (const json& one : inside["personal"]) {
    const std::string kind = one["kind"];
    EXPECT_TRUE(kind != "path" && kind != "identifier" && kind != "host") << one;
    EXPECT_EQ(one["text"].get<std::string>().find("osei"), std::string::npos) << one;
  }
  const Outcome kept = call({"bundle", "s.ironlever", "--out", "b.zip", "--keep", "people,paths", "--json"});
  ASSERT_EQ(kept.code, 0) << kept.err;
  EXPECT_EQ(json::parse(kept.out)["left_out"]["serials"], 2) << kept.out;
  EXPECT_NE(found({QStringLiteral("osei")}), "");
  EXPECT_EQ(found({QStringLiteral("52:54:00:12:34:56")}), "");
  EXPECT_TRUE(verified("b.zip", 0)["ok"]);
  EXPECT_EQ(call({"bundle", "s.ironlever", "--out", "b.zip", "--keep", "nothing"}).code, 2);
  // Nothing is sealed of a plan that is not complete.
  ASSERT_EQ(call({"new", "t.ironlever", "--design", "d.json"}).code, 0);
  EXPECT_EQ(call({"bundle", "t.ironlever", "--out", "t.zip"}).code, 1);
  EXPECT_FALSE(std::filesystem::exists(folder_ / "t.zip"));
}

}  // namespace
