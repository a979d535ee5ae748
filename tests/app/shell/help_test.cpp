// The manual inside the program: what it explains, and that every link of it leads somewhere.
#include <QRegularExpression>
#include <QScrollBar>
#include <QTextBlock>
#include <QTreeWidget>

#include <fmt/format.h>

#include "app/shell/doubts_tray.h"
#include "app/shell/help_window.h"
#include "core/estimate/verdict.h"
#include "core/study/terms.h"
#include "support/window.h"

namespace {

class Help : public support::WindowTest {
 protected:
  [[nodiscard]] const app::HelpBrowser& browser() const { return *find<app::HelpBrowser>("helpBrowser"); }
  [[nodiscard]] bool isInSight(const char* heading) const {
    const int place =
        browser().placeOf(app::fragmentOf(QLatin1String(heading))) - browser().verticalScrollBar()->value();
    return place >= 0 && place < browser().viewport()->height();
  }
  [[nodiscard]] std::string firstHeading() const {
    QTextBlock block = browser().document()->begin();
    while (block.isValid() && block.blockFormat().headingLevel() == 0) block = block.next();
    return block.text().toStdString();
  }
};

TEST_F(Help, ExplainsThePageThatIsOpenWithItsPicture) {
  open();
  press("welcomeNewButton");
  for (const auto& [action, title] :
       {std::pair{"questionAction", "Question"}, std::pair{"benchAction", "Bench"},
        std::pair{"runSheetAction", "Run sheet"}, std::pair{"passesAction", "Passes"},
        std::pair{"findingsAction", "Findings"}, std::pair{"reportPlaceAction", "Report"}}) {
    trigger(action);
    trigger("helpAction");
    EXPECT_EQ(firstHeading(), title);
    EXPECT_GT(browser().document()->size().height(), 500) << title << ": its picture has a height";
    EXPECT_EQ(browser().horizontalScrollBar()->maximum(), 0) << title << ": it is no wider than its room";
  }
}

TEST_F(Help, WalksThroughWholeJobsAndTellsTheMethod) {
  open();
  for (const auto& [action, title] : {std::pair{"guideAction", "Five whole jobs, step by step"},
                                      std::pair{"methodHelpAction", "The method, and why it is this one"}}) {
    trigger(action);
    EXPECT_EQ(firstHeading(), title);
    EXPECT_EQ(browser().horizontalScrollBar()->maximum(), 0) << title;
  }
}

TEST_F(Help, ExplainsTheChosenDoubt) {
  openDemo();
  find<app::DoubtsTray>("doubtsTray")->setOpen(true);
  press("explainDoubtButton");
  EXPECT_TRUE(isInSight("unlike_its_level"));
  EXPECT_FALSE(isInSight("did_not_move"));
}

TEST_F(Help, ExplainsAVerdict) {
  openDemo();
  trigger("findingsAction");
  Q_EMIT find<QLabel>("evidenceLabel")->linkActivated(QStringLiteral("verdict:gain, size not settled"));
  EXPECT_TRUE(isInSight("gain, size not settled"));
  EXPECT_TRUE(textOf("evidenceLabel").contains(QStringLiteral("verdict:gain")));
}

TEST_F(Help, LeadsNowhereThatIsNotThere) {
  open();
  static const QRegularExpression kLink(QStringLiteral("\\]\\(([^)]+)\\)"));
  for (const char* page :
       {"question", "bench", "run-sheet", "passes", "findings", "report", "doubts", "verdicts", "words", "cabinet"}) {
    app::HelpBrowser shown;
    const QUrl url(QStringLiteral("qrc:/docs/help/%1.md").arg(QLatin1String(page)));
    shown.setSource(url);
    QFile file(QLatin1Char(':') + url.path());
    ASSERT_TRUE(file.open(QIODevice::ReadOnly)) << page;
    auto links = kLink.globalMatch(QString::fromUtf8(file.readAll()));
    while (links.hasNext()) {
      const QUrl link = url.resolved(QUrl(links.next().captured(1).simplified().remove(QLatin1Char(' '))));
      EXPECT_TRUE(QFile::exists(QLatin1Char(':') + link.path())) << page << ": " << link.toString().toStdString();
      if (link.fragment().isEmpty()) continue;
      shown.setSource(link);
      EXPECT_GE(shown.placeOf(link.fragment()), 0) << page << ": " << link.toString().toStdString();
    }
  }
}

// The page of words, the guide and the lines shown where a word first stands are one.
TEST_F(Help, ExplainsEveryWordOnceAndAsTheWindowDoes) {
  const std::string docs = std::string(IRON_LEVER_SOURCE) + "/docs/";
  const std::string words = support::contents(docs + "help/words.md");
  const std::string guide = support::contents(docs + "guide.md");
  std::string all =
      "# Words\n\nWhat the program's words mean, one line each. The same lines are shown where a word first stands.\n";
  for (const core::Term& one : core::kTerms) {
    all += fmt::format("\n**{}**: {}\n", one.word, one.meaning);
    EXPECT_NE(guide.find(one.word), std::string::npos) << one.word << " is a word that the guide does without";
  }
  EXPECT_EQ(words, all);
  open();
  press("welcomeNewButton");
  EXPECT_TRUE(find<QTreeWidget>("kindList")->headerItem()->toolTip(2).startsWith(QStringLiteral("flip: everything")));
  EXPECT_TRUE(find<QLabel>("planLabel")->toolTip().contains(QStringLiteral("round: one visit at each level")));
}

TEST_F(Help, KnowsEveryVerdict) {
  open();
  app::HelpBrowser shown;
  shown.setSource(QUrl(QStringLiteral("qrc:/docs/help/verdicts.md")));
  for (int one = 0; one <= static_cast<int>(core::Verdict::NotSettled); ++one)
    EXPECT_GE(shown.placeOf(app::fragmentOf(QLatin1String(core::verdictName(static_cast<core::Verdict>(one))))), 0)
        << one;
  core::Marks marks{true, true, 7};
  for (const std::string& mark : marks.words()) {
    const QString heading = QString::fromStdString(mark).section(QStringLiteral(" for 7"), 0, 0);
    EXPECT_GE(shown.placeOf(app::fragmentOf(heading)), 0) << mark;
  }
}

}  // namespace
