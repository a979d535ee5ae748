// What recorded studies say, byte for byte: findings as JSON and as text, the page, and the claim in both. The studies
// in tests/data/frozen were filed by the program when their schema was the current one, with every kind of event among
// them. A change of words or numbers shows here first: look at each difference, then file it anew with
// `IRON_LEVER_FREEZE=1 build/release/bin/cli_tests --gtest_filter='Recorded/*'`, and say in the commit which and why.
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <regex>

#include "support/programs.h"

namespace {

namespace fs = std::filesystem;

class FrozenOutputs : public support::ProgramsTest, public testing::WithParamInterface<const char*> {
 protected:
  FrozenOutputs() { environment_.insert(QStringLiteral("TZ"), QStringLiteral("UTC")); }
  static fs::path frozen(const std::string& name) { return fs::path(IRON_LEVER_SOURCE) / "tests/data/frozen" / name; }
  /// What is kept of a study; the old ones hold the same passes and say the same.
  static std::string keptName(const std::string& ending) {
    const std::string name = GetParam();
    return (name.starts_with("schema-") ? "old-schema" : name) + ending;
  }
  // Nothing may differ but the day on which a page is made and the version that makes it.
  static std::string withoutToday(const std::string& page) {
    return std::regex_replace(std::regex_replace(page, std::regex("Iron Lever [0-9.]+, page made on [0-9-]+\\."),
                                                 "Iron Lever …, page made on …."),
                              std::regex(R"("program_version": "[0-9.]+")"), R"("program_version": "…")");
  }
  static void expectFrozen(const std::string& ending, const std::string& text) {
    ASSERT_FALSE(text.empty());
    if (std::getenv("IRON_LEVER_FREEZE")) std::ofstream(frozen(keptName(ending))) << text;
    const std::string kept = support::contents(frozen(keptName(ending)));
    // The whole of two pages tells nobody where they part.
    const auto parted = std::mismatch(kept.begin(), kept.end(), text.begin(), text.end());
    const auto at = static_cast<std::size_t>(parted.first - kept.begin());
    const std::size_t from = at < 80 ? 0 : at - 80;
    EXPECT_TRUE(kept == text) << GetParam() << ending << " parts at byte " << at << "\nkept: …"
                              << kept.substr(from, 240) << "\nnow:  …" << text.substr(from, 240);
  }
};

TEST_P(FrozenOutputs, StayAsTheyAre) {
  const fs::path study = fs::path(folder_.path()) / "study.ironlever";
  fs::copy_file(frozen(GetParam() + std::string(".ironlever")), study);
  const auto findings = cli({QStringLiteral("findings"), QStringLiteral("study.ironlever"), QStringLiteral("--json")});
  expectFrozen(".json", withoutToday(findings.out));
  expectFrozen(".txt", cli({QStringLiteral("findings"), QStringLiteral("study.ironlever")}).out);
  const auto passes = cli({QStringLiteral("passes"), QStringLiteral("study.ironlever"), QStringLiteral("--json")});
  expectFrozen(".passes.json", withoutToday(passes.out));
  const auto report = cli({QStringLiteral("report"), QStringLiteral("study.ironlever"), QStringLiteral("--out"),
                           QStringLiteral("page.html")});
  // A sealed study has no page; then it is the refusal that is kept.
  expectFrozen(".html", report.code == 0 ? withoutToday(support::contents(folder_ / "page.html")) : report.err);
}

INSTANTIATE_TEST_SUITE_P(Recorded, FrozenOutputs,
                         testing::Values("rates", "times", "decibels", "null", "looks", "schema-2", "schema-3",
                                         "schema-4", "schema-5", "schema-7"),
                         [](const auto& instance) {
                           std::string name = instance.param;
                           name.erase(std::remove(name.begin(), name.end(), '-'), name.end());
                           return name;
                         });

}  // namespace
