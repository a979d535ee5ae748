// What the window does like any other program on the desktop: it remembers, takes back, takes what is dropped, prints.
#include <gtest/gtest.h>

#include <QDialog>
#include <QDropEvent>
#include <QFile>
#include <QMenu>
#include <QMimeData>
#include <filesystem>

#include "app/shell/recent_studies.h"
#include "core/study/exclusion.h"
#include "support/recorded_study.h"
#include "support/window.h"

namespace {

class Desktop : public support::WindowTest {
 protected:
  void drop(const QStringList& paths) {
    QMimeData dropped;
    QList<QUrl> urls;
    for (const QString& path : paths) urls << QUrl::fromLocalFile(path);
    dropped.setUrls(urls);
    QDragEnterEvent enters(QPoint(5, 5), Qt::CopyAction, &dropped, Qt::LeftButton, Qt::NoModifier);
    QCoreApplication::sendEvent(window_.get(), &enters);
    ASSERT_TRUE(enters.isAccepted());
    QDropEvent drops(QPointF(5, 5), Qt::CopyAction, &dropped, Qt::LeftButton, Qt::NoModifier);
    QCoreApplication::sendEvent(window_.get(), &drops);
  }
  void make(const std::string& name) const {
    ASSERT_TRUE(store::StudyFile::create(folder_ / name, support::timedStudyOf({"true"})).ok());
  }
  [[nodiscard]] QString pathOf(const std::string& name) const { return QString::fromStdString(folder_ / name); }
};

TEST_F(Desktop, OpensAgainWhatWasOpenedLast) {
  for (const char* name : {"first.ironlever", "second.ironlever"}) make(name);
  open();
  EXPECT_TRUE(window_->findChildren<QPushButton*>(QStringLiteral("recentStudyButton")).isEmpty());
  for (const char* name : {"first.ironlever", "second.ironlever", "first.ironlever"}) study_->openStudy(pathOf(name));
  EXPECT_EQ(app::recentStudies().mid(0, 2), (QStringList{pathOf("first.ironlever"), pathOf("second.ironlever")}));
  std::filesystem::remove(folder_ / "first.ironlever");
  EXPECT_EQ(app::recentStudies().value(0), pathOf("second.ironlever")) << "a file that is gone is not offered";
  window_.reset();
  study_.reset();
  open();  // at the next start
  const auto buttons = window_->findChildren<QPushButton*>(QStringLiteral("recentStudyButton"));
  ASSERT_FALSE(buttons.isEmpty());
  buttons.front()->click();
  ASSERT_TRUE(study_->hasStudy());
  EXPECT_EQ(study_->session().open().absolutePath(), folder_ / "second.ironlever");
}

TEST_F(Desktop, ShowsTheNameOfAStudyAsItIs) {
  const std::string odd = "left & \xE2\x80\xAEright.ironlever";  // with a sign that turns what follows around
  make(odd);
  open();
  study_->openStudy(pathOf(odd));
  ASSERT_EQ(app::recentStudies().value(0), pathOf(odd));
  const QString title = app::recentTitle(pathOf(odd));
  EXPECT_TRUE(title.startsWith(QStringLiteral("left && ")));
  EXPECT_FALSE(title.contains(QChar(0x202E)));
}

TEST_F(Desktop, OpensAStudyThatIsDropped) {
  make("dropped.ironlever");
  open();
  drop({pathOf("dropped.ironlever")});
  ASSERT_TRUE(study_->hasStudy());
  EXPECT_TRUE(window_->windowTitle().startsWith(QStringLiteral("dropped")));
  const QString log = pathOf("frames.csv");
  QFile file(log);
  ASSERT_TRUE(file.open(QIODevice::WriteOnly));
  file.write("frame_ms\n10\n11\n");
  file.close();
  drop({log});
  EXPECT_NE(window_->findChild<QDialog*>(QStringLiteral("importDialog")), nullptr) << "a log is brought in";
}

TEST_F(Desktop, ComesBackWhereItWas) {
  open();
  window_->restorePlace();
  window_->resize(1390, 850);
  const QSize left = window_->size();
  window_->close();
  window_.reset();
  open();
  EXPECT_NE(window_->size(), left) << "only where it is asked to";
  window_->restorePlace();
  EXPECT_EQ(window_->size(), left);
}

TEST_F(Desktop, TakesBackChangesOfTheQuestion) {
  openStudy(support::timedStudyOf({"true"}));
  const core::Study before = study_->study();
  type("benchEdit", QStringLiteral("Dome node 9"));
  type("variableEdit", QStringLiteral("cooling"));
  EXPECT_EQ(study_->study().variable().name, "cooling");
  trigger("undoAction");
  EXPECT_EQ(study_->study().variable().name, before.variable().name);
  EXPECT_EQ(study_->study().bench, "Dome node 9");
  trigger("undoAction");
  EXPECT_EQ(study_->study(), before);
  trigger("undoAction");
  EXPECT_FALSE(prompts_.told.isEmpty()) << "there is nothing left to take back";
}

TEST_F(Desktop, TakesNothingBackIntoAnotherStudy) {
  make("other.ironlever");
  openStudy(support::timedStudyOf({"true"}));
  type("benchEdit", QStringLiteral("Dome node 9"));
  study_->openStudy(pathOf("other.ironlever"));
  const core::Study other = study_->study();
  trigger("undoAction");
  EXPECT_EQ(study_->study(), other);
  EXPECT_EQ(store::StudyFile::open(folder_ / "other.ironlever")->study(), other);
  EXPECT_FALSE(prompts_.told.isEmpty());
}

TEST_F(Desktop, KeepsAChangeThatCannotBeTakenBackNow) {
  openStudy(support::timedStudyOf({"true"}));
  core::Study longer = study_->study();
  longer.plan.passes_per_level += 3;
  study_->replaceStudy(longer);
  const std::size_t last = study_->session().open().schedule().size() - 1;
  // Skipped elsewhere: in the shorter plan that pass has no place.
  ASSERT_TRUE(store::StudyFile::open(folder_ / "study.ironlever")
                  ->addEvent({0, 1, "M. Osei", core::Skipped{last, "the save is broken"}})
                  .ok());
  trigger("undoAction");
  EXPECT_EQ(study_->study(), longer);
  EXPECT_TRUE(prompts_.told.value(0).contains(QStringLiteral("has no place in this question")));
}

TEST_F(Desktop, TakesBackTheLastDecisionAndKeepsBothOnRecord) {
  openStudy(support::timedStudyOf({"sh", "-c", "echo '{\"seconds\": 1}'"}, 2));
  study_->act([](session::Session& s) { return s.approve(); });
  study_->act(&session::Session::start);
  ASSERT_TRUE(support::waitUntil([&] { return !study_->session().isRunning(); }));
  const auto excluded = [&] { return study_->session().recorded().passes.front().excluded_because; };
  study_->act([](session::Session& s) { return s.decisions().exclude(1, std::string(core::kExclusionCauses[0])); });
  ASSERT_FALSE(excluded().empty());
  trigger("undoAction");
  EXPECT_TRUE(excluded().empty());
  trigger("undoAction");
  EXPECT_FALSE(excluded().empty()) << "once more brings it back";
  EXPECT_EQ(study_->session().recorded().events.size(), 3U);
  const std::string title = study_->study().cases.front().title();
  const auto pins = [&] { return store::recordOf(study_->session().recorded()).pins; };
  study_->act([&](session::Session& s) { return s.decisions().pin(title, "first"); });
  study_->act([&](session::Session& s) { return s.decisions().pin(title, "second"); });
  trigger("undoAction");
  EXPECT_EQ(pins().at(title), "first");
  study_->act([&](session::Session& s) { return s.decisions().addNote("the gate opens"); });
  trigger("undoAction");
  EXPECT_TRUE(prompts_.told.value(0).contains(QStringLiteral("cannot be taken back")));
}

TEST_F(Desktop, SaysWhoElseHasTheStudyOpen) {
  openStudy(support::timedStudyOf({"true"}, 2));
  EXPECT_TRUE(prompts_.informed.isEmpty());
  const std::string path = study_->session().open().path();
  {
    const session::Session other(*store::StudyFile::open(path), bench_, session::UserFiles::in(folder_ / "other"),
                                 "T. Varga");
    study_->openStudy(QString::fromStdString(path));
    ASSERT_EQ(prompts_.informed.size(), 1);
    EXPECT_TRUE(
        prompts_.informed[0].startsWith(QStringLiteral("This study is open elsewhere too: T. Varga, process ")));
    EXPECT_TRUE(window_->windowTitle().contains(QStringLiteral("also open: T. Varga")));
    // Moved under the other one it would be a file that is gone.
    prompts_.path = QString::fromStdString(folder_ / "elsewhere.ironlever");
    trigger("keepElsewhereAction");
    EXPECT_TRUE(prompts_.told.value(0).contains(QStringLiteral("open elsewhere too: T. Varga")));
    EXPECT_EQ(study_->session().open().path(), path);
    EXPECT_TRUE(std::filesystem::exists(path));
  }
  trigger("passesAction");
  EXPECT_FALSE(window_->windowTitle().contains(QStringLiteral("also open")));
}

TEST_F(Desktop, PrintsTheReport) {
  openDemo();
  trigger("reportPlaceAction");
  prompts_.save_path = pathOf("printed.pdf");
  press("printButton");
  QFile printed(*prompts_.save_path);
  ASSERT_TRUE(printed.open(QIODevice::ReadOnly));
  const QByteArray content = printed.readAll();
  EXPECT_TRUE(content.startsWith("%PDF"));
  EXPECT_GT(content.count("/Type /Page\n"), 1) << "more than one page";
}

}  // namespace
