// The pages and the programs say the same: commands, exit codes and numbers that stand in the pages are those of the
// programs.
#include <QRegularExpression>
#include <fstream>
#include <set>
#include <sstream>

#include "store/study/database.h"
#include "support/programs.h"

namespace {

using support::Outcome;

QString page(const char* name) {
  std::ifstream file(std::string(IRON_LEVER_SOURCE "/") + name);
  std::ostringstream text;
  text << file.rdbuf();
  return QString::fromStdString(text.str());
}

// What the first group of a pattern finds, each once.
std::set<QString> allOf(const QString& text, const char* pattern) {
  std::set<QString> found;
  const QRegularExpression expression(QLatin1String(pattern), QRegularExpression::MultilineOption);
  for (auto match = expression.globalMatch(text); match.hasNext();) found.insert(match.next().captured(1));
  return found;
}

class Pages : public support::ProgramsTest {};

TEST_F(Pages, NameEveryCommandOfTheTerminalAndNoOther) {
  const Outcome help = cli({QStringLiteral("--help")});
  const QString listed = QString::fromStdString(help.out).section(QStringLiteral("Subcommands:"), 1);
  const auto commands = allOf(listed, "^  ([a-z-]+) ");
  ASSERT_GT(commands.size(), 20U);
  const QString row = allOf(page("README.md"), "^\\| `iron-lever-cli` \\|(.*)\\|$").begin()->trimmed();
  EXPECT_EQ(allOf(row, "`([a-z-]+)[ `]"), commands);
}

TEST_F(Pages, TellTheSchemaThatIsWritten) {
  ASSERT_EQ(cli({QStringLiteral("new"), QStringLiteral("a.ironlever"), QStringLiteral("--design"),
                 example("one-core-against-two.json")})
                .code,
            0);
  auto database = store::Database::open(folder_ / "a.ironlever", store::Database::Mode::OpenExisting);
  ASSERT_TRUE(database);
  auto statement = database->prepare("PRAGMA user_version");
  ASSERT_TRUE(*statement->step());
  const auto told = allOf(page("docs/study-format.md"), "`user_version` is the schema number, ([0-9]+) now");
  EXPECT_EQ(told, std::set<QString>{QString::number(statement->integer(0))});
}

TEST_F(Pages, NameOnlyCommandsOfTheOneScriptThatItHas) {
  QProcess lever;
  lever.start(QStringLiteral(IRON_LEVER_SOURCE "/lever"), {QStringLiteral("help")});
  ASSERT_TRUE(lever.waitForFinished());
  const auto has = allOf(QString::fromUtf8(lever.readAllStandardOutput()), "^\\./lever ([a-z]+)");
  const auto named = allOf(page("README.md"), "\\./lever ([a-z]+)");
  ASSERT_GT(named.size(), 4U);
  for (const QString& one : named) EXPECT_TRUE(has.contains(one)) << one.toStdString();
}

// As it stands on the first page, up to what takes minutes.
TEST_F(Pages, BeginTheFirstStudyAsTheReadmeSays) {
  const QString block = page("README.md").section(QStringLiteral("cd build/release/bin\n"), 1).section(u'`', 0, 0);
  int done = 0;
  for (QString line : block.split(u'\n', Qt::SkipEmptyParts)) {
    line = line.section(u'#', 0, 0).trimmed();
    if (!line.startsWith(QStringLiteral("./iron-lever-cli ")) || line.endsWith(QStringLiteral("--approve"))) continue;
    line.replace(QStringLiteral("/tmp/"), QString::fromStdString(folder_.path()) + u'/');
    line.replace(QStringLiteral("../../../"), QStringLiteral(IRON_LEVER_SOURCE "/"));
    const Outcome outcome = cli(line.split(u' ', Qt::SkipEmptyParts).mid(1));
    EXPECT_EQ(outcome.code, line.contains(QStringLiteral(" run ")) ? 4 : 0) << line.toStdString() << outcome.err;
    ++done;
  }
  EXPECT_EQ(done, 3);
}

// As the pages are shown: a heading's words in small letters, joined by dashes.
std::set<QString> anchorsOf(const QString& text) {
  std::set<QString> anchors;
  for (QString heading : allOf(text, "^#+ (.+)$")) {
    heading = heading.toLower().remove(QRegularExpression(QStringLiteral("[^\\w\\s-]")));
    anchors.insert(heading.trimmed().replace(u' ', u'-'));
  }
  return anchors;
}

// Each file and each heading that a page names is there.
TEST_F(Pages, LinkToWhatIsThere) {
  namespace fs = std::filesystem;
  std::set<fs::path> pages{IRON_LEVER_SOURCE "/README.md"};
  for (const char* folder : {"/docs", "/docs/help"})
    for (const auto& entry : fs::directory_iterator(IRON_LEVER_SOURCE + std::string(folder)))
      if (entry.path().extension() == ".md") pages.insert(entry.path());
  EXPECT_GT(pages.size(), 20U);
  for (const fs::path& one : pages) {
    const QString text = page(fs::relative(one, IRON_LEVER_SOURCE).c_str());
    for (const QString& link : allOf(text, "\\]\\(([^):]+)\\)")) {
      const QString file = link.section(u'#', 0, 0);
      const QString anchor = link.section(u'#', 1);
      const fs::path to = file.isEmpty() ? one : one.parent_path() / file.toStdString();
      EXPECT_TRUE(fs::exists(to)) << one << ": " << link.toStdString();
      if (!anchor.isEmpty() && fs::exists(to)) {
        EXPECT_TRUE(anchorsOf(page(fs::relative(to, IRON_LEVER_SOURCE).c_str())).contains(anchor))
            << one << ": " << link.toStdString();
      }
    }
  }
}

}  // namespace
