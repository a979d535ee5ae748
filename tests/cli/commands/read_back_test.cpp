// The demo, a ladder and a comparison, read back by NumPy: what follows from the passes is what is said, and every
// percent of the page is in the numbers for scripts, to its last printed digit.
#include <gtest/gtest.h>

#include <fstream>

#include <nlohmann/json.hpp>

#include "support/programs.h"

namespace {

using nlohmann::json;
using support::Outcome;

class ReadBack : public support::ProgramsTest {
 protected:
  void demo(const char* study) const {
    const Outcome made =
        cli({QStringLiteral("demo"), QStringLiteral("demo"), QStringLiteral("--study"), QLatin1String(study)});
    ASSERT_EQ(made.code, 0) << made.err;
  }
  void write(const QStringList& command, const char* out) const {
    const Outcome made = cli(command + QStringList{QStringLiteral("--out"), QLatin1String(out)});
    ASSERT_EQ(made.code, 0) << made.err;
  }
  [[nodiscard]] json readBack(const QStringList& files) const {
    QProcess python;
    python.setWorkingDirectory(QString::fromStdString(folder_.path()));
    python.start(QStringLiteral("/usr/bin/python3"),
                 QStringList{QStringLiteral(IRON_LEVER_SOURCE "/tests/data/read_back.py")} + files);
    EXPECT_TRUE(python.waitForFinished()) << "python3";
    const std::string said = python.readAllStandardOutput().toStdString();
    EXPECT_FALSE(said.empty()) << python.readAllStandardError().toStdString();
    return json::parse(said, nullptr, false);
  }
  void holds(const QString& study) const {
    for (const char* out : {"r.html", "r.json", "r.csv"}) write({QStringLiteral("report"), study}, out);
    const QStringList files{QStringLiteral("r.html"), QStringLiteral("r.json"), QStringLiteral("r-passes.csv")};
    const json found = readBack(files);
    EXPECT_GT(found["looked_at"], 100) << study.toStdString();
    EXPECT_TRUE(found["wrong"].empty()) << found["wrong"].dump(1);
    // Planted: what looks for a wrong number finds one.
    std::ofstream(folder_ / "r.html", std::ios::app) << "<p>a gain of 77.7 %</p>";
    EXPECT_EQ(readBack(files)["wrong"].size(), 1U);
  }
};

TEST_F(ReadBack, GivesTheDemo) {
  demo("memory-speed");
  holds(QStringLiteral("demo/memory-speed.ironlever"));
}

TEST_F(ReadBack, GivesALadder) {
  demo("link-ladder");
  const QString ladder = QStringLiteral("demo/link-ladder/link-ladder.ironlever");
  holds(ladder);
  // In a talk the whole ladder stands behind the claim, then the pair that is compared, case by case.
  write({QStringLiteral("report"), ladder, QStringLiteral("--talk")}, "talk.svg");
  const std::string whole = support::contents(folder_ / "talk-2.svg");
  for (const char* level : {"Gen 1", "Gen 2", "Gen 3", "Gen 4"})
    EXPECT_NE(whole.find(level), std::string::npos) << level;
  EXPECT_EQ(support::contents(folder_ / "talk-3.svg").find("Gen 2"), std::string::npos);
}

TEST_F(ReadBack, GivesAComparison) {
  demo("memory-speed");
  demo("side-by-side");
  const QStringList beside{QStringLiteral("beside"), QStringLiteral("demo/side-by-side/side-by-side.ironlever"),
                           QStringLiteral("demo/memory-speed.ironlever"), QStringLiteral("--meant"),
                           QStringLiteral("*driver_version")};
  for (const char* out : {"b.html", "b.json"}) write(beside, out);
  const json found = readBack({QStringLiteral("b.html"), QStringLiteral("b.json")});
  EXPECT_GT(found["looked_at"], 20);
  EXPECT_TRUE(found["wrong"].empty()) << found["wrong"].dump(1);
}

}  // namespace
