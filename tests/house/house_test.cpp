// Holds docs/house.md, the map of this house, to the truth.
#include <gtest/gtest.h>

#include <algorithm>
#include <cctype>
#include <filesystem>
#include <fstream>
#include <map>
#include <regex>
#include <set>
#include <sstream>
#include <string>
#include <vector>

namespace {

namespace fs = std::filesystem;
const fs::path kSource = IRON_LEVER_SOURCE;

std::string textOf(const fs::path& path) {
  std::ostringstream text;
  text << std::ifstream(path).rdbuf();
  return text.str();
}

/// All first groups of a pattern in a text.
std::vector<std::string> allOf(const std::string& text, const char* pattern) {
  const std::regex expression(pattern);
  std::vector<std::string> found;
  for (std::sregex_iterator each(text.begin(), text.end(), expression), end; each != end; ++each)
    found.push_back((*each)[1].str());
  return found;
}

/// A row of the map's first table: its room, and whom it knows in words.
struct Room {
  std::string name;  ///< as includes begin: "core/values"
  std::string knows;
};

std::vector<Room> roomsOfTheMap() {
  std::vector<Room> rooms;
  std::istringstream lines(textOf(kSource / "docs/house.md"));
  const std::regex row("\\| `src/([a-z_/]+)` \\|.*\\|(.*)\\|");
  for (std::string line; std::getline(lines, line) && line != "## Where is …";)
    if (std::smatch found; std::regex_match(line, found, row)) rooms.push_back({found[1], found[2]});
  return rooms;
}

/// The longest room that a path lies in; empty for none.
std::string roomOf(const std::string& path, const std::vector<Room>& rooms) {
  std::string longest;
  for (const Room& room : rooms)
    if (path.starts_with(room.name + "/") && room.name.size() > longest.size()) longest = room.name;
  return longest;
}

/// Room by room, the rooms that it may include, itself among them.
std::map<std::string, std::set<std::string>> knownBy(const std::vector<Room>& rooms) {
  std::map<std::string, std::set<std::string>> known;
  std::set<std::string> core;
  for (const Room& room : rooms) {
    std::set<std::string>& of = known[room.name];
    const std::vector<std::string> named = allOf(room.knows, "`([a-z_/]+)`");
    if (room.knows.find("all of `core` above") != std::string::npos) {
      of = core;
    } else if (room.knows.find("all but") != std::string::npos) {
      for (const Room& other : rooms) of.insert(other.name);
    } else {
      of.insert(named.begin(), named.end());
      if (of.erase("core") > 0) of.insert(core.begin(), core.end());
    }
    if (const auto but = room.knows.find("but"); but != std::string::npos)
      for (const std::string& left_out : allOf(room.knows.substr(but), "`([a-z_/]+)`")) of.erase(left_out);
    of.insert(room.name);
    if (room.name.starts_with("core/")) core.insert(room.name);
  }
  return known;
}

TEST(House, HasEveryRoomOnItsMap) {
  const auto rooms = roomsOfTheMap();
  ASSERT_GT(rooms.size(), 15U);
  for (const auto& file : fs::recursive_directory_iterator(kSource / "src")) {
    if (file.path().extension() != ".cpp" && file.path().extension() != ".h") continue;
    const std::string path = file.path().lexically_relative(kSource / "src").string();
    EXPECT_NE(roomOf(path, rooms), "") << path << " lies in no room of docs/house.md";
  }
}

TEST(House, HasEveryPathOfItsMap) {
  const std::string map = textOf(kSource / "docs/house.md");
  for (const std::string& path : allOf(map, "`((?:src|docs|tests|benchmarks|fuzz)[a-z_0-9/.-]*)`"))
    EXPECT_TRUE(fs::exists(kSource / path)) << path;
}

TEST(House, LooksDownItsOwnStairsOnly) {
  const auto rooms = roomsOfTheMap();
  const auto known = knownBy(rooms);
  int includes = 0;
  for (const auto& file : fs::recursive_directory_iterator(kSource / "src")) {
    if (file.path().extension() != ".cpp" && file.path().extension() != ".h") continue;
    const std::string path = file.path().lexically_relative(kSource / "src").string();
    for (const std::string& included : allOf(textOf(file.path()), "#include \"([^\"]+)\"")) {
      const std::string target = roomOf(included, rooms);
      if (target.empty()) continue;  // made by the build
      ++includes;
      EXPECT_TRUE(known.at(roomOf(path, rooms)).contains(target)) << path << " includes " << included;
    }
  }
  EXPECT_GT(includes, 500);
}

// A doubt that no test brings about may have stopped being said, and nobody would know.
TEST(House, HasATestAndAnExplanationForEachKindOfDoubt) {
  const std::string manual = textOf(kSource / "docs/help/doubts.md");
  std::string tests;
  for (const auto& file : fs::recursive_directory_iterator(kSource / "tests"))
    if (file.path().extension() == ".cpp") tests += textOf(file.path());
  std::size_t kinds = 0;
  const std::string table =
      textOf(kSource / "src/core/judgement/doubt_kinds.h") + textOf(kSource / "src/core/proof/retired_visits.h");
  for (const std::string& id : allOf(table, "(?:DoubtKind k\\w+\\{|k\\w+Id = )\"([a-z_]+)\"")) {
    EXPECT_NE(tests.find(id), std::string::npos) << "no test names the doubt " << id;
    EXPECT_NE(manual.find("\n### " + id + "\n"), std::string::npos) << "docs/help/doubts.md does not explain " << id;
    ++kinds;
  }
  EXPECT_GT(kinds, 50U);
  EXPECT_EQ(allOf(manual, "\n### ([a-z_]+)\n").size(), kinds) << "docs/help/doubts.md explains what is no doubt";
}

// What stands in bold in help and README stands so in the program, word for word; "…" is any text. The guide's bold is
// pressed, chosen and typed by a test of its own.
TEST(House, HelpNamesOnlyWhatTheProgramSays) {
  std::string said;
  for (const auto& file : fs::recursive_directory_iterator(kSource / "src"))
    if (file.path().extension() == ".cpp" || file.path().extension() == ".h")
      for (const std::string& text : allOf(textOf(file.path()), "\"((?:[^\"\\\\\n]|\\\\.)*)\"")) said += text + '\n';
  said = std::regex_replace(said, std::regex("%[0-9]|\\{[^}\n]*\\}"), "…");
  std::vector<fs::path> pages{kSource / "README.md"};
  for (const auto& file : fs::directory_iterator(kSource / "docs/help")) pages.push_back(file.path());
  int named = 0;
  for (const fs::path& page : pages)
    for (const std::string& bold : allOf(textOf(page), "\\*\\*([^*]+)\\*\\*")) {
      std::istringstream way(
          std::regex_replace(bold, std::regex("\\s+"), " "));  // "Study > New study": a way through menus
      for (std::string part; std::getline(way, part, '>'); ++named) {
        part = std::regex_replace(part, std::regex("^ *(?:[0-9]\\. )?|[. ]*$"), "");
        EXPECT_NE(said.find(part), std::string::npos) << page << ": the program says nowhere " << part;
      }
    }
  EXPECT_GT(named, 30);
}

TEST(House, HasNoLongFile) {
  for (const auto& file : fs::recursive_directory_iterator(kSource / "src")) {
    if (file.path().extension() != ".cpp" && file.path().extension() != ".h") continue;
    const std::string text = textOf(file.path());
    EXPECT_LT(std::count(text.begin(), text.end(), '\n'), 400) << file.path() << " is to be divided";
  }
}

// In code that is laid out by machine a function begins at the left edge of its scope and ends with a brace there.
// `indent`: 0 for those of a file, 2 for those inside a class. A table of data may be longer and says so.
std::string longFunctionOf(const std::string& text, std::size_t indent) {
  std::istringstream lines(text);
  std::string line;
  std::string name;
  std::string before;
  int length = 0;
  const std::string end = std::string(indent, ' ') + "}";
  while (std::getline(lines, line)) {
    const std::size_t edge = line.find_first_not_of(' ');
    ++length;
    if (edge == indent &&
        (std::isalpha(static_cast<unsigned char>(line[edge])) != 0 || line[edge] == '~' || line[edge] == '['))
      name = before + line, length = 1;
    before = line;
    if (line == end && length > 60 && name.find("NOLINTNEXTLINE(readability-function-size)") == std::string::npos)
      return name;
  }
  return "";
}

TEST(House, HasNoLongFunction) {
  for (const auto& file : fs::recursive_directory_iterator(kSource / "src")) {
    if (file.path().extension() != ".cpp" && file.path().extension() != ".h") continue;
    for (const std::size_t indent : {std::size_t{0}, std::size_t{2}})
      EXPECT_EQ(longFunctionOf(textOf(file.path()), indent), "") << "in " << file.path();
  }
}

/// Class by class of a header, the names that everybody may call: in code that is laid out by machine a class begins at
/// the left edge, its labels stand one step in and its members two.
std::map<std::string, std::set<std::string>> publicNames(const std::string& text) {
  static const std::regex head(R"(class (\w+).*\{)");
  static const std::regex member(R"(  (?=[\w\[~:]).*?(~?\w+|operator\W+)\()");
  std::map<std::string, std::set<std::string>> names;
  std::string name;
  bool is_public = false;
  std::istringstream lines(text);
  for (std::string line; std::getline(lines, line);) {
    std::smatch found;
    if (std::regex_match(line, found, head)) name = found[1];
    if (line.starts_with("}")) name.clear();
    if (line.starts_with(" ") && line.ends_with(":") && line[1] != ' ') is_public = line.starts_with(" public");
    if (!name.empty() && is_public && line.find("  using ") == std::string::npos &&
        std::regex_search(line, found, member, std::regex_constants::match_continuous))
      names[name].insert(found[1]);
  }
  return names;
}

TEST(House, HasNoClassThatDoesTooMuch) {
  std::size_t classes = 0;
  for (const auto& file : fs::recursive_directory_iterator(kSource / "src")) {
    if (file.path().extension() != ".h") continue;
    for (const auto& [name, names] : publicNames(textOf(file.path()))) {
      ++classes;
      EXPECT_LT(names.size(), 25U) << name << " in " << file.path() << " is to be divided";
    }
  }
  EXPECT_GT(classes, 100U);
}

}  // namespace
