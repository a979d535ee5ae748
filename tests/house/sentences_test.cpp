// Every sentence that the program can say stands in tests/data/sentences.txt, a line each under its file, so that a
// reader can read them all and a review sees each change. After one: IRON_LEVER_FREEZE=1 build/release/bin/house_tests
// --gtest_filter='Sentences.*'
#include <gtest/gtest.h>

#include <algorithm>
#include <cctype>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <set>
#include <sstream>
#include <string>
#include <vector>

#include "support/test_folder.h"

namespace {

namespace fs = std::filesystem;
const fs::path kRoot = IRON_LEVER_SOURCE;

/// Reads the texts between quotation marks in a source; those that only white space parts are one, as for a compiler.
class Texts {
 public:
  explicit Texts(const std::string& source) : source_(source) {}

  std::vector<std::string> take() {
    while (at_ < source_.size()) step();
    end();
    return std::move(texts_);
  }

 private:
  void step() {
    if (source_.compare(at_, 2, "//") == 0) return skipTo("\n");
    if (source_.compare(at_, 2, "/*") == 0) return skipTo("*/");
    if (source_[at_] == '#' && (at_ == 0 || source_[at_ - 1] == '\n')) return skipTo("\n");
    if (source_.compare(at_, 3, "R\"(") == 0) return skipTo(")\"");
    if (source_[at_] == '\'' && !isDigitBefore()) return character();
    if (source_[at_] == '"') return text();
    if (std::isspace(static_cast<unsigned char>(source_[at_])) == 0) end();
    ++at_;
  }

  void skipTo(const char* what) {
    const auto found = source_.find(what, at_ + 2);
    at_ = found == std::string::npos ? source_.size() : found + std::string_view(what).size();
  }

  [[nodiscard]] bool isDigitBefore() const {  // 10'000
    return at_ > 0 && std::isdigit(static_cast<unsigned char>(source_[at_ - 1])) != 0;
  }

  void character() {
    end();
    at_ += source_[at_ + 1] == '\\' ? 4 : 3;
  }

  void text() {
    for (++at_; at_ < source_.size() && source_[at_] != '"'; ++at_) {
      if (source_[at_] == '\\') {
        ++at_;
        open_ += source_[at_] == 'n' ? ' ' : source_[at_];
      } else {
        open_ += source_[at_];
      }
    }
    ++at_;
  }

  void end() {
    if (!open_.empty()) texts_.push_back(std::move(open_));
    open_.clear();
  }

  const std::string& source_;
  std::size_t at_ = 0;
  std::string open_;
  std::vector<std::string> texts_;
};

// Two words beside each other; no markup, no statement of a database, no style.
bool isSaid(const std::string& text) {
  for (const char* other : {"<", "SELECT ", "INSERT ", "CREATE ", "PRAGMA ", "UPDATE ", "DELETE ", "border", "::"})
    if (text.find(other) != std::string::npos) return false;
  const auto letter = [&](std::size_t at) {
    return at < text.size() && std::isalpha(static_cast<unsigned char>(text[at])) != 0;
  };
  for (std::size_t at = 2; at + 2 < text.size(); ++at)
    if (text[at] == ' ' && letter(at - 1) && letter(at - 2) && letter(at + 1)) return true;
  return false;
}

std::string everySentence() {
  std::set<fs::path> files;
  for (const auto& entry : fs::recursive_directory_iterator(kRoot / "src"))
    if (entry.path().extension() == ".cpp" || entry.path().extension() == ".h") files.insert(entry.path());
  std::string all;
  for (const fs::path& file : files) {
    const std::string source = support::contents(file.string());
    std::string of_file;
    for (const std::string& text : Texts(source).take())
      if (isSaid(text)) of_file += "  " + text + "\n";
    if (!of_file.empty()) all += fs::relative(file, kRoot / "src").string() + "\n" + of_file;
  }
  return all;
}

TEST(Sentences, AreThoseThatWereReadInReview) {
  const fs::path kept = kRoot / "tests/data/sentences.txt";
  const std::string now = everySentence();
  if (std::getenv("IRON_LEVER_FREEZE") != nullptr) std::ofstream(kept) << now;
  std::istringstream before(support::contents(kept.string()));
  std::istringstream after(now);
  std::string known;
  std::string said;
  while (std::getline(after, said)) {
    std::getline(before, known);
    ASSERT_EQ(said, known) << "a sentence is new, changed or gone: read it, and keep it as the first line here says";
  }
  EXPECT_FALSE(std::getline(before, known)) << known << " is no longer said";
}

TEST(Sentences, AreReadFromSourcesAsACompilerDoes) {
  const std::string source =
      "#include \"not this one\"\n// nor \"this one\"\nsay(\"one \"\n    \"sentence\", '\"', 10'000, \"an "
      "\\\"other\\\" one\");";
  EXPECT_EQ(Texts(source).take(), (std::vector<std::string>{"one sentence", "an \"other\" one"}));
}

}  // namespace
