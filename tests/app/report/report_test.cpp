// The report: in the window, as a page and as PDF, with the same numbers as everywhere.
#include <QCheckBox>
#include <QClipboard>
#include <QComboBox>
#include <QFile>
#include <QGuiApplication>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QProcess>
#include <QScrollBar>
#include <QTextBrowser>

#include "core/estimate/wording.h"
#include "session/bundle/bundle.h"
#include "support/window.h"

namespace {

class Reports : public support::WindowTest {
 protected:
  static QByteArray bytesOf(const QString& path) {
    QFile file(path);
    EXPECT_TRUE(file.open(QIODevice::ReadOnly)) << path.toStdString();
    return file.readAll();
  }
};

TEST_F(Reports, SayTheSameAsTheFindingsInTheWindowAsAPageAndAsPdf) {
  openDemo();
  window_->goTo(core::Place::Report);
  const QString shown = find<QTextBrowser>("reportView")->toPlainText();
  const std::string headline = core::changeText(study_->judgement().findings.suite->improvement);
  EXPECT_TRUE(shown.contains(QString::fromStdString(headline)));
  for (const core::CaseFinding& finding : study_->judgement().findings.cases)
    EXPECT_TRUE(shown.contains(QString::fromStdString(core::percentText(finding.change.value)))) << finding.title;
  for (const core::CaseFinding& finding : study_->judgement().findings.cases) {
    const QString rests = QStringLiteral(" rests on ") +
                          QString::fromStdString(study_->judgement().pass_names.ofSeveral(finding.counted));
    const auto cases = study_->judgement().findings.cases.size();
    EXPECT_TRUE(shown.contains(QString::fromStdString(finding.title) + rests) ||
                shown.contains(QStringLiteral("Each of the %1 cases").arg(cases) + rests))
        << finding.title;
    for (const core::SecondaryMetric& metric : finding.secondary) {
      if (!metric.name.starts_with("1 % low")) continue;
      const auto interval = QString::fromStdString(core::intervalText(*metric.change));
      EXPECT_TRUE(shown.contains(interval)) << finding.title << metric.name;
    }
  }
  for (const core::Doubt& doubt : study_->judgement().doubts)
    EXPECT_TRUE(shown.contains(QString::fromStdString(doubt.sentence))) << doubt.id;
  prompts_.save_path = QString::fromStdString(folder_ / "report.html");
  press("saveHtmlButton");
  const QByteArray page = bytesOf(*prompts_.save_path);
  EXPECT_TRUE(page.contains("<svg"));
  EXPECT_TRUE(page.contains(QByteArray::fromStdString(headline)));
  EXPECT_FALSE(page.contains("<script"));
  EXPECT_FALSE(page.contains("src="));  // nothing besides the page
  press("saveHtmlButton");
  EXPECT_EQ(bytesOf(*prompts_.save_path), page);  // the same study, the same page
  prompts_.save_path = QString::fromStdString(folder_ / "bundle.zip");
  press("sealButton");
  EXPECT_FALSE(find<QPushButton>("sealButton")->isEnabled()) << "the window goes on while every number is worked out";
  ASSERT_TRUE(support::waitUntil([this] { return find<QPushButton>("sealButton")->isEnabled(); }));
  EXPECT_EQ(prompts_.told, QStringList());
  const auto check = session::verifyBundle(folder_ / "bundle.zip");
  ASSERT_TRUE(check.ok() && check->differences.empty());
  EXPECT_TRUE(find<QLabel>("sealedLabel")->text().contains(QString::fromStdString(check->seal)));
  prompts_.save_path = QString::fromStdString(folder_ / "report.pdf");
  press("savePdfButton");
  EXPECT_TRUE(bytesOf(*prompts_.save_path).startsWith("%PDF-"));
  // Planted: after page breaks were put in, the last sheet was not printed.
  QProcess reading;
  reading.start(QStringLiteral("pdftotext"), {QStringLiteral("-layout"), *prompts_.save_path, QStringLiteral("-")});
  ASSERT_TRUE(reading.waitForFinished());
  EXPECT_TRUE(reading.readAllStandardOutput().contains("Not a promise that anybody feels it"));
  prompts_.save_path = QString::fromStdString(folder_ / "absent/report.html");
  press("saveHtmlButton");
  EXPECT_TRUE(prompts_.told.last().contains(QStringLiteral("cannot be written")));
}

TEST_F(Reports, AreDrawnAnewOnlyWhereTheyChanged) {
  openDemo();
  window_->goTo(core::Place::Report);
  auto* view = find<QTextBrowser>("reportView");
  EXPECT_TRUE(support::hasAccent(*view->viewport())) << "the lever chart is not there";
  constexpr int kReadTo = 300;
  view->verticalScrollBar()->setValue(kReadTo);
  study_->act([](session::Session& s) { return s.decisions().addNote("the window was open"); });
  EXPECT_EQ(view->verticalScrollBar()->value(), kReadTo);
  const std::string title = study_->study().cases[0].title();
  study_->act([&](session::Session& s) { return s.decisions().pin(title, "look at this one"); });
  EXPECT_TRUE(view->toPlainText().contains(QStringLiteral("look at this one")));
}

TEST_F(Reports, CopyAndSaveTheChart) {
  openDemo();
  trigger("copyChartAction");
  EXPECT_FALSE(QGuiApplication::clipboard()->image().isNull());
  prompts_.save_path = QString::fromStdString(folder_ / "levers.svg");
  trigger("saveChartAction");
  EXPECT_TRUE(bytesOf(*prompts_.save_path).startsWith("<svg"));
  prompts_.save_path = QString::fromStdString(folder_ / "levers.png");
  trigger("saveChartAction");
  EXPECT_TRUE(bytesOf(*prompts_.save_path).startsWith("\x89PNG"));
}

TEST_F(Reports, PutPinnedFindingsFirstWithTheirRemark) {
  openDemo();
  window_->goTo(core::Place::Findings);
  auto* list = find<QListView>("leverList");
  const auto title = [&](int row) { return list->model()->index(row, 0).data().toString(); };
  EXPECT_EQ(title(1), QStringLiteral("Sky survey"));  // the largest effect, below the suite
  choose("sortBox", 1);
  EXPECT_EQ(title(1), QStringLiteral("Nebula volume"));  // the question's order; a workload of one preset has no group
  choose("sortBox", 2);
  EXPECT_EQ(title(1), QStringLiteral("8K dome"));  // the first preset of the question, summed up
  EXPECT_EQ(title(2), QStringLiteral("Nebula volume"));
  choose("sortBox", 0);
  list->setCurrentIndex(list->model()->index(7, 0));
  const QString last = title(7);
  prompts_.answer = QStringLiteral("look at this one");
  press("pinButton");
  EXPECT_EQ(title(1), last);
  window_->goTo(core::Place::Report);
  EXPECT_TRUE(find<QTextBrowser>("reportView")->toPlainText().contains(QStringLiteral("look at this one")));
  window_->goTo(core::Place::Findings);
  press("pinButton");  // the same button takes it back
  prompts_.explained = app::Prompts::Cause{0, QStringLiteral("the cache holds it all")};
  press("explainButton");
  EXPECT_TRUE(textOf("evidenceLabel").contains(QStringLiteral("Measured: the cache holds it all")));
  window_->goTo(core::Place::Report);
  const auto says = [&](const char* text) {
    return find<QTextBrowser>("reportView")->toPlainText().contains(QString::fromUtf8(text));
  };
  EXPECT_TRUE(says("the cache holds it all (Person 1)"));
  find<QCheckBox>("namesPeopleBox")->click();
  EXPECT_FALSE(says("(Person 1)"));
  find<QCheckBox>("namesPeopleBox")->click();
  window_->goTo(core::Place::Findings);
  prompts_.explained->text.clear();
  press("explainButton");
  EXPECT_FALSE(textOf("evidenceLabel").contains(QStringLiteral("the cache holds it all")));
  EXPECT_EQ(title(1), QStringLiteral("Sky survey"));
}

TEST_F(Reports, WaitForThePlanToBeComplete) {
  open();
  press("welcomeNewButton");
  window_->goTo(core::Place::Report);
  EXPECT_FALSE(find<QPushButton>("saveHtmlButton")->isEnabled());
  EXPECT_TRUE(textOf("reportWhyNot").contains(QStringLiteral("the plan is not complete")));
}

TEST_F(Reports, AreMadeOfThePartsThatSomebodyChooses) {
  openDemo();
  window_->goTo(core::Place::Report);
  const auto shown = [&] { return find<QTextBrowser>("reportView")->toPlainText(); };
  EXPECT_TRUE(shown().contains(QStringLiteral("How it was measured")));
  trigger("reportPartsAction");
  auto* parts = find<QListWidget>("partsList");
  for (int i = 0; i < parts->count(); ++i)
    if (parts->item(i)->text() == QStringLiteral("how it was measured")) parts->item(i)->setCheckState(Qt::Unchecked);
  parts->setCurrentRow(1);
  press("partUpButton");  // the picture, before one's own words
  parts->setCurrentRow(parts->count() - 1);
  press("anotherPlaceButton");
  find<QPlainTextEdit>("ownWordsEdit")->setPlainText(QStringLiteral("# For the <board>\n---\nWe ask for it."));
  find<QLineEdit>("keepTemplateEdit")->setText(QStringLiteral("ours"));
  press("usePartsButton");
  EXPECT_FALSE(shown().contains(QStringLiteral("How it was measured")));
  EXPECT_TRUE(shown().contains(QStringLiteral("For the <board>")));
  EXPECT_TRUE(shown().trimmed().endsWith(QStringLiteral("We ask for it."))) << "at the second place";
  auto* templates = find<QComboBox>("reportTemplateBox");
  EXPECT_EQ(templates->currentText(), QStringLiteral("ours"));
  EXPECT_EQ(prompts_.told, QStringList());
  templates->setCurrentIndex(templates->findData(QStringLiteral("hurry")));
  Q_EMIT templates->activated(templates->currentIndex());
  EXPECT_FALSE(shown().contains(QStringLiteral("For the <board>")));
  EXPECT_FALSE(shown().contains(QStringLiteral("What this is not")));
  prompts_.save_path = QString::fromStdString(folder_ / "talk.png");
  trigger("reportTalkAction");
  EXPECT_TRUE(bytesOf(QString::fromStdString(folder_ / "talk-1.png")).startsWith("\x89PNG"));
  prompts_.save_path = QString::fromStdString(folder_ / "page.html");
  press("saveHtmlButton");
  EXPECT_TRUE(bytesOf(*prompts_.save_path).contains("<svg")) << "a page again, and no picture for a talk";
}

}  // namespace
