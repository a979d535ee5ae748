// The cabinet and studies side by side, in the real window.
#include <QComboBox>
#include <QKeyEvent>
#include <QListWidget>
#include <QTest>
#include <filesystem>

#include "app/cabinet/beside_window.h"
#include "app/cabinet/cabinet_view.h"
#include "app/cabinet/reference_dialog.h"
#include "app/model/cabinet_model.h"
#include "support/filed_study.h"
#include "support/window.h"

namespace {

constexpr std::int64_t kJune2025 = 1'750'000'000'000;
constexpr std::int64_t kOctober2025 = 1'760'000'000'000;

class Cabinet : public support::WindowTest {
 protected:
  /// A complete study of the plain question in the user's own folder, its second level so many times as fast.
  std::string file(const std::string& name, double faster, const std::string& bench = "Dome node 3",
                   std::int64_t at_ms = kJune2025) {
    core::Study study = support::roundsOf(4, 2);
    study.bench = bench;
    const std::string path = folder_ / ("user/studies/" + name + ".ironlever");
    std::filesystem::create_directories(folder_ / "user/studies");
    support::RecordedStudy recorded{study};
    recorded.recordRates({60, 60 * faster});
    const std::string kernel = at_ms == kJune2025 ? "6.9.12-corvane" : "6.12.48-corvane";
    EXPECT_TRUE(support::fileStudy(path, recorded, at_ms, kernel).ok());
    return path;
  }
  [[nodiscard]] app::CabinetView& view() const { return *window_->findChild<app::CabinetView*>(); }
  [[nodiscard]] QListView& list() const { return *view().findChild<QListView*>(QStringLiteral("cabinetList")); }
  [[nodiscard]] QStringList sentences() const {
    QStringList all;
    for (int i = 0; i < list().model()->rowCount(); ++i) all << list().model()->index(i, 0).data().toString();
    return all;
  }
  // Until so many stand there and nothing is looked for any more.
  [[nodiscard]] bool waitForStudies(int rows) const {
    const auto* status = view().findChild<QLabel*>(QStringLiteral("cabinetStatus"));
    return support::waitUntil([&] {
      return list().model()->rowCount() == rows && !status->text().contains(QStringLiteral("looking through"));
    });
  }
  [[nodiscard]] app::BesideWindow* besideWindow() const { return window_->findChild<app::BesideWindow*>(); }
};

TEST_F(Cabinet, IsTheFirstPageOnceThereAreStudies) {
  file("then", 1.05);
  file("now", 1.10, "Dome node 3", kOctober2025);
  open();
  ASSERT_TRUE(waitForStudies(3)) << "a heading and two studies";
  EXPECT_TRUE(list().isVisible());
  EXPECT_EQ(sentences().front(), QStringLiteral("Dome node 3"));
  EXPECT_TRUE(sentences()[1].contains(QStringLiteral("+10."))) << sentences()[1].toStdString() << ": the latest first";
  EXPECT_EQ(view().findChild<QLabel*>(QStringLiteral("cabinetStatus"))->text(), QStringLiteral("2 studies"));
  // Found by what it is, by the beginnings of words; what is not there is said.
  auto* find = view().findChild<QLineEdit*>(QStringLiteral("cabinetFind"));
  find->setText(QStringLiteral("nothing of this"));
  ASSERT_TRUE(waitForStudies(0));
  EXPECT_TRUE(view()
                  .findChild<QLabel*>(QStringLiteral("cabinetEmpty"))
                  ->text()
                  .contains(QStringLiteral("every one of these words")));
  find->setText(QStringLiteral("dome nod"));
  ASSERT_TRUE(waitForStudies(3));
  // By the arrows and Return from the field: it is opened.
  QTest::keyClick(find, Qt::Key_Down);
  QTest::keyClick(&list(), Qt::Key_Return);
  ASSERT_TRUE(study_->hasStudy()) << prompts_.told.join(QLatin1Char(32)).toStdString() << list().currentIndex().row();
  EXPECT_TRUE(study_->session().open().path().ends_with("now.ironlever"));
}

TEST_F(Cabinet, AnswersWhetherItHasBecomeBetterInThreePresses) {
  file("then", 1.05);
  file("now", 1.10, "Dome node 3", kOctober2025);
  open();
  ASSERT_TRUE(waitForStudies(3));
  const auto tick = [&](int row) {
    const QRect place = list().visualRect(list().model()->index(row, 0));
    QTest::mouseClick(list().viewport(), Qt::LeftButton, {}, app::CabinetDelegate::tickOf(place).center());
  };
  auto* beside = view().findChild<QPushButton*>(QStringLiteral("cabinetBesideButton"));
  EXPECT_FALSE(beside->isEnabled());
  tick(1);
  tick(2);
  EXPECT_EQ(beside->text(), QStringLiteral("Lay 2 side by side"));
  beside->click();
  ASSERT_NE(besideWindow(), nullptr);
  ASSERT_TRUE(support::waitUntil([&] { return besideWindow()->model().beside().has_value(); }))
      << besideWindow()->model().told().toStdString();
  const QString claim = asRead(besideWindow()->findChild<QLabel*>(QStringLiteral("besideClaim"))->text());
  // The older one is the first, in whatever order they were ticked.
  EXPECT_TRUE(claim.contains(QStringLiteral("2025-10-09 over 2025-06-15 is +4."))) << claim.toStdString();
  EXPECT_TRUE(support::hasAccent(*besideWindow()->findChild<QWidget*>(QStringLiteral("besidePicture"))));
  auto* numbers = besideWindow()->findChild<QTreeWidget*>(QStringLiteral("besideNumbers"));
  EXPECT_EQ(numbers->topLevelItem(0)->text(0), QStringLiteral("Ring pass, 4K dome"));
}

TEST_F(Cabinet, AsksAStudyAgainWithPassesOfItsOwn) {
  const std::string then = file("then", 1.05);
  const std::string before = support::contents(then);
  open();
  ASSERT_TRUE(waitForStudies(2));
  list().setCurrentIndex(list().model()->index(1, 0));
  view().findChild<QPushButton*>(QStringLiteral("cabinetRepeatButton"))->click();
  ASSERT_TRUE(study_->hasStudy()) << prompts_.told.join(QLatin1Char(' ')).toStdString();
  EXPECT_NE(study_->session().open().path(), then);
  EXPECT_TRUE(study_->session().recorded().passes.empty());
  EXPECT_EQ(study_->study().cases.size(), 1U);
  EXPECT_EQ(support::contents(then), before) << "it is only read";
}

TEST_F(Cabinet, NamesWhatCannotBeReadAndWhatIsAway) {
  file("then", 1.05);
  std::filesystem::create_directories(folder_ / "elsewhere");
  folder_.write("elsewhere/broken.ironlever", "no study");
  open();
  ASSERT_TRUE(waitForStudies(2));
  prompts_.path = QString::fromStdString(folder_ / "elsewhere");
  Q_EMIT view().folderRequested();
  ASSERT_TRUE(waitForStudies(4)) << sentences().join(QLatin1Char('\n')).toStdString();
  EXPECT_EQ(sentences()[2], QStringLiteral("Cannot be read"));
  EXPECT_TRUE(view()
                  .findChild<QLabel*>(QStringLiteral("cabinetStatus"))
                  ->text()
                  .startsWith(QStringLiteral("2 studies, 1 cannot be read")));
  EXPECT_FALSE(list().model()->index(3, 0).data(Qt::CheckStateRole).isValid()) << "it is not laid beside others";
}

TEST_F(Cabinet, ToldWhatIsMeantAClaimSaysNoMoreThatTheBenchDiffers) {
  const std::string then = file("then", 1.05);
  const std::string now = file("now", 1.10, "Dome node 4", kOctober2025);
  open();
  app::BesideWindow window(prompts_);
  core::BesideOrder order;
  order.studies = {then, now};
  window.model().lay(order);
  ASSERT_TRUE(support::waitUntil([&] { return window.model().beside().has_value(); }));
  auto* differs = window.findChild<QTreeWidget*>(QStringLiteral("besideDiffers"));
  auto* claim = window.findChild<QLabel*>(QStringLiteral("besideClaim"));
  ASSERT_EQ(differs->topLevelItemCount(), 1) << "the kernel";
  EXPECT_TRUE(claim->text().contains(QStringLiteral("not yet the same bench")));
  differs->topLevelItem(0)->setCheckState(0, Qt::Checked);
  ASSERT_TRUE(support::waitUntil([&] { return !claim->text().contains(QStringLiteral("not yet the same bench")); }));
  EXPECT_EQ(window.model().order().meant, std::vector<std::string>{"os/kernel"});
  // A number from elsewhere stands beside; it changes nothing.
  const QString said = claim->text();
  window.findChild<QPushButton*>(QStringLiteral("addReferenceButton"))->click();
  auto* dialog = window.findChild<app::ReferenceDialog*>();
  ASSERT_NE(dialog, nullptr);
  for (const auto& [name, text] : {std::pair{"referenceName", "promise"}, std::pair{"referenceSource", "the maker"},
                                   std::pair{"referenceValue", "12"}, std::pair{"referenceAt", "2026"}})
    dialog->findChild<QLineEdit*>(QLatin1String(name))->setText(QLatin1String(text));
  dialog->accept();
  EXPECT_TRUE(window.findChild<QLabel*>(QStringLiteral("besideReferences"))
                  ->text()
                  .contains(QStringLiteral("promise, the maker, 2026: 12 %")));
  EXPECT_EQ(claim->text(), said);
  // Kept, and laid out again as it was.
  prompts_.save_path = QString::fromStdString(folder_ / "kept.beside.json");
  window.findChild<QPushButton*>(QStringLiteral("besideSaveButton"))->click();
  app::BesideWindow again(prompts_);
  ASSERT_TRUE(again.model().open(*prompts_.save_path).ok());
  ASSERT_TRUE(support::waitUntil([&] { return again.model().beside().has_value(); }));
  EXPECT_EQ(again.findChild<QLabel*>(QStringLiteral("besideClaim"))->text(), said);
  EXPECT_EQ(again.model().order().references.size(), 1U);
  // Asked otherwise: levels between benches, then a table.
  auto* kind = window.findChild<QComboBox*>(QStringLiteral("besideKind"));
  kind->setCurrentIndex(1);
  Q_EMIT kind->activated(1);
  EXPECT_TRUE(claim->text().contains(QStringLiteral("between studies"))) << claim->text().toStdString();
  kind->setCurrentIndex(2);
  Q_EMIT kind->activated(2);
  ASSERT_TRUE(window.model().beside()) << window.model().told().toStdString();
  EXPECT_TRUE(window.model().beside()->table.has_value());
}

TEST_F(Cabinet, SaysWhyNothingCanBeSaid) {
  const std::string then = file("then", 1.05);
  const std::string copy = folder_ / "user/studies/copy.ironlever";
  std::filesystem::copy(then, copy);
  open();
  app::BesideWindow window(prompts_);
  core::BesideOrder order;
  order.studies = {then, copy};
  window.model().lay(order);
  ASSERT_TRUE(support::waitUntil([&] { return !window.model().isReading(); }));
  EXPECT_TRUE(
      window.findChild<QLabel*>(QStringLiteral("besideTold"))->text().contains(QStringLiteral("these share passes")));
  EXPECT_FALSE(window.findChild<QPushButton*>(QStringLiteral("besideSaveButton"))->isEnabled());
}

TEST_F(Cabinet, TakesANumberFromElsewhereOnlyWithItsSource) {
  open();
  app::ReferenceDialog dialog;
  const auto edit = [&](const char* name, const char* text) {
    dialog.findChild<QLineEdit*>(QLatin1String(name))->setText(QLatin1String(text));
  };
  edit("referenceValue", "about 40");
  dialog.accept();
  EXPECT_TRUE(
      dialog.findChild<QLabel*>(QStringLiteral("referenceWhyNot"))->text().contains(QStringLiteral("is not a number")));
  edit("referenceValue", "44");
  edit("referenceName", "promise");
  dialog.accept();
  EXPECT_TRUE(dialog.findChild<QLabel*>(QStringLiteral("referenceWhyNot"))
                  ->text()
                  .contains(QStringLiteral("where it is from")));
  edit("referenceSource", "the maker");
  dialog.accept();
  EXPECT_EQ(dialog.result(), QDialog::Accepted);
  EXPECT_EQ(dialog.reference().value, 44);
}

TEST_F(Cabinet, ShowsTheNoiseOfABenchOverTime) {
  file("then", 1.05);
  open();
  ASSERT_TRUE(waitForStudies(2));
  store::BenchRegister benches = study_->benches();
  core::Capture capture;
  capture.taken_ms = kJune2025;
  ASSERT_TRUE(benches.add("Dome node 3", capture).ok());
  for (const auto& [at, flip_sd] : {std::pair{kJune2025, 0.003}, {kOctober2025, 0.006}}) {
    core::CaseNoise noise;
    noise.title = "Ring pass, 4K dome";
    noise.noise.visits = 8;
    noise.noise.pass_sd = 0.004;
    noise.noise.flip_sd = flip_sd;
    noise.noise.flip_df = 7;
    ASSERT_TRUE(benches.addNoise("Dome node 3", {noise}, at).ok());
  }
  // In the heading what was seen last, from where the whole history opens.
  view().findChild<QLineEdit*>(QStringLiteral("cabinetFind"))->setText(QStringLiteral("dome"));
  ASSERT_TRUE(support::waitUntil([&] {
    return list().model()->index(0, 0).data(Qt::AccessibleDescriptionRole).toString() ==
           QStringLiteral("noise of this bench: 0.40 % a pass, 0.60 % a flip, seen 2025-10-09");
  })) << list().model()->index(0, 0).data(Qt::AccessibleDescriptionRole).toString().toStdString();
  list().setCurrentIndex(list().model()->index(0, 0));
  QTest::keyClick(&list(), Qt::Key_Return);
  auto* picture = window_->findChild<QWidget*>(QStringLiteral("benchNoisePicture"));
  ASSERT_NE(picture, nullptr);
  EXPECT_TRUE(picture->isVisible());
  EXPECT_TRUE(support::hasAccent(*picture));
}

// Planted: the folder was named as somebody typed it, and not found again under its whole name.
TEST_F(Cabinet, HoldsTheDemoHoweverOftenItIsOpened) {
  openDemo();
  trigger("demoAccidentAction");
  trigger("cabinetAction");
  auto* listed = window_->findChild<QDialog*>(QStringLiteral("cabinetWindow"))->findChild<QListView*>();
  ASSERT_TRUE(support::waitUntil([&] { return listed->model()->rowCount() >= 2; }));
  EXPECT_EQ(prompts_.told, QStringList());
}

// Planted: its studies are named as seen from the document, and were looked for from where the program was started.
TEST_F(Cabinet, AsksTheFirstStudyOfADocumentAgain) {
  core::BesideOrder order;
  order.studies = {file("then", 1.05), file("now", 1.10, "Dome node 3", kOctober2025)};
  open();
  app::BesideModel model;
  model.lay(order);
  ASSERT_TRUE(support::waitUntil([&] { return model.beside().has_value(); }));
  const QString kept = QString::fromStdString(folder_ / "kept.beside.json");
  ASSERT_TRUE(model.save(kept).ok());
  window_->openBeside(kept);
  ASSERT_NE(besideWindow(), nullptr);
  ASSERT_TRUE(support::waitUntil([&] { return besideWindow()->model().beside().has_value(); }));
  besideWindow()->findChild<QPushButton*>(QStringLiteral("besideRepeatButton"))->click();
  EXPECT_EQ(prompts_.told, QStringList());
  ASSERT_TRUE(study_->hasStudy());
  EXPECT_TRUE(study_->session().recorded().passes.empty());
  // The theme is that of the window, also of one that was open before.
  const QImage before = besideWindow()->findChild<QWidget*>(QStringLiteral("besidePicture"))->grab().toImage();
  window_->toggleNight();
  EXPECT_NE(besideWindow()->findChild<QWidget*>(QStringLiteral("besidePicture"))->grab().toImage(), before);
  window_->toggleNight();
}

// Planted: a watched folder had the running study read again after each of its passes, on the machine under test.
TEST_F(Cabinet, ReadsNothingWhileASheetRuns) {
  file("then", 1.05);
  open();
  ASSERT_TRUE(waitForStudies(2));
  app::CabinetModel model{session::Cabinet(study_->files())};
  ASSERT_TRUE(support::waitUntil([&] { return model.rowCount() == 2; }));
  model.setQuiet(true);
  model.refresh();
  EXPECT_FALSE(model.isRefreshing());
  file("now", 1.10, "Dome node 3", kOctober2025);
  model.setQuiet(false);
  EXPECT_TRUE(model.isRefreshing()) << "what was asked for meanwhile is done then";
  ASSERT_TRUE(support::waitUntil([&] { return model.rowCount() == 3; }));
}

// Planted: the next study of the demo took the place of the one that was telling that it had ended.
TEST_F(Cabinet, FollowsADemoOfSeveralStudiesToTheEnd) {
  open();
  window_->openDemo(QStringLiteral("board-4-q4"));
  ASSERT_TRUE(support::waitUntil([&] {
    auto* cabinet = window_->findChild<QDialog*>(QStringLiteral("cabinetWindow"));
    return cabinet && cabinet->isVisible();
  }));
  EXPECT_TRUE(study_->session().open().path().ends_with("board-4-q6.ironlever"));
  EXPECT_FALSE(study_->session().nextSlot());
  EXPECT_EQ(prompts_.told, QStringList());
}

// Facts tell models only: nothing is taken for the same bench before a person said so.
TEST_F(Cabinet, AsksWhetherABenchWasRenamed) {
  store::BenchRegister benches(folder_ / "user/benches.sqlite");
  open();
  benches = store::BenchRegister(study_->files().benches);
  const auto seen = [&](const char* bench, std::int64_t at_ms, const char* board) {
    core::Capture capture;
    capture.taken_ms = at_ms;
    for (const auto& [name, value] : {std::pair{"firmware/board", board}, {"cpu/model", "Ostrel Q4"}}) {
      core::Fact fact;
      fact.name = name;
      fact.value = value;
      capture.put(fact);
    }
    ASSERT_TRUE(benches.add(bench, capture).ok());
  };
  seen("Dome node 3", kJune2025, "Corvane D2");
  seen("Star node", kJune2025, "Corvane D9");
  seen("Ring node", kOctober2025, "Corvane D2");
  trigger("benchesAction");
  auto* asked = window_->findChild<QLabel*>(QStringLiteral("benchQuestion"));
  ASSERT_TRUE(asked->isVisible());
  EXPECT_TRUE(asked->text().contains(QStringLiteral("Ring node reads the board and the processor of Dome node 3")))
      << asked->text().toStdString();
  press("benchSameButton");
  EXPECT_FALSE(asked->isVisible()) << "no other one is alike";
  auto* list = window_->findChild<QListWidget*>(QStringLiteral("benchesList"));
  EXPECT_EQ(list->count(), 2) << "what was Dome node 3 is Ring node";
  EXPECT_EQ(benches.entries("Ring node")->size(), 2U);
  // A study that keeps the old name goes on under the new one.
  core::Capture again = benches.entries("Ring node")->back().capture;
  again.taken_ms = kOctober2025 + 1;
  ASSERT_TRUE(benches.add("Dome node 3", again).ok());
  EXPECT_EQ(benches.benches()->size(), 2U);
  file("then", 1.05);
  session::Cabinet cabinet(study_->files());
  ASSERT_TRUE(cabinet.refresh().ok());
  EXPECT_EQ(cabinet.find("")->front().bench, "Ring node");
}

// A card of one model left one bench, and came up at another.
TEST_F(Cabinet, AsksWhetherACardWasCarriedOver) {
  open();
  store::BenchRegister benches(study_->files().benches);
  const auto seen = [&](const char* bench, std::int64_t at_ms, const char* board, bool has_card) {
    core::Capture capture;
    capture.taken_ms = at_ms;
    const auto put = [&](const char* name, const char* value) {
      core::Fact fact;
      fact.name = name;
      fact.value = value;
      capture.put(fact);
    };
    put("firmware/board", board);
    put("cpu/model", "Ostrel Q4");
    if (has_card)
      for (const auto& [name, value] :
           {std::pair{"class", "0x030000"}, {"vendor", "0xf1c9"}, {"product_name", "Luma-9"}})
        put((std::string("pci/0000:03:00.0/") + name).c_str(), value);
    ASSERT_TRUE(benches.add(bench, capture).ok());
  };
  seen("Dome node 3", kJune2025, "Corvane D2", true);
  seen("Dome node 3", kJune2025 + 1000, "Corvane D2", false);
  seen("Star node", kOctober2025, "Corvane D9", true);
  trigger("benchesAction");
  auto* asked = window_->findChild<QLabel*>(QStringLiteral("benchQuestion"));
  EXPECT_EQ(asked->text(), QStringLiteral("Star node has a part of the model Luma-9 since 2025-10-09; Dome node 3 was "
                                          "last seen with one on 2025-06-15: is it the same piece?"));
  press("benchSameButton");
  EXPECT_FALSE(asked->isVisible()) << "it is asked once";
  ASSERT_EQ(benches.papers("Star node")->size(), 1U);
  EXPECT_EQ(benches.papers("Star node")->front().text,
            "the Luma-9 came from Dome node 3, where it was last seen on 2025-06-15");
  EXPECT_EQ(benches.papers("Dome node 3")->front().text, "the Luma-9 went to Star node");
}

}  // namespace
