// The desk in the real window: answers as they are typed.
#include <gtest/gtest.h>

#include <QClipboard>
#include <QGuiApplication>
#include <QImage>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QPushButton>
#include <QTest>
#include <fstream>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "app/desk/desk_window.h"
#include "app/shell/theme.h"
#include "core/desk/desk.h"
#include "core/desk/desk_typed.h"
#include "report/report.h"
#include "support/studies.h"
#include "support/window.h"

namespace {

class Desk : public support::WindowTest {
 protected:
  void openDesk() const { trigger("deskAction"); }
  [[nodiscard]] app::DeskWindow& desk() const { return *window_->findChild<app::DeskWindow*>(); }
  void choose(const char* ask) const {
    for (std::size_t i = 0; i < core::deskAsks().size(); ++i)
      if (core::deskAsks()[i].id == ask) desk().findChild<QListWidget*>()->setCurrentRow(static_cast<int>(i));
  }
  [[nodiscard]] QLineEdit& field(const char* key) const {
    return *desk().findChild<QLineEdit*>(QStringLiteral("desk-") + QLatin1String(key));
  }
  void type(const char* key, const char* text) const {
    field(key).selectAll();
    QTest::keyClicks(&field(key), QLatin1String(text));
  }
  [[nodiscard]] QStringList values() const {
    QStringList all;
    for (const auto* label : desk().findChildren<QLabel*>(QStringLiteral("deskValue"))) all << label->text();
    return all;
  }
  [[nodiscard]] QString said(const char* name) const { return desk().findChild<QLabel*>(QLatin1String(name))->text(); }
};

TEST_F(Desk, AnswersAsItIsTyped) {
  open();
  openDesk();
  ASSERT_TRUE(desk().isVisible());
  choose("link_rate");
  EXPECT_TRUE(values().isEmpty());
  EXPECT_FALSE(said("deskTold").isEmpty()) << "what is missing";
  type("generation", "8 GT/s x4");
  EXPECT_TRUE(values().contains(QStringLiteral("3.93846 GB/s"))) << values().join(QLatin1Char(';')).toStdString();
  type("lanes", "8");
  EXPECT_TRUE(said("deskTold").contains(QStringLiteral("two numbers"))) << said("deskTold").toStdString();
  type("generation", "Gen 3");
  EXPECT_TRUE(values().contains(QStringLiteral("7.87692 GB/s"))) << values().join(QLatin1Char(';')).toStdString();
  type("lanes", "lots");
  EXPECT_TRUE(values().isEmpty());
  EXPECT_TRUE(said("deskTold").contains(QStringLiteral("lots"))) << said("deskTold").toStdString();
  // Every ask has a formula, says what it does not say, and keeps what was typed.
  auto* list = desk().findChild<QListWidget*>();
  for (int i = 0; i < list->count(); ++i) {
    list->setCurrentRow(i);
    EXPECT_GT(said("deskFormula").size(), 8) << i;
    EXPECT_GT(said("deskMind").size(), 8) << i;
  }
  choose("percent");
  type("from", "100");
  type("to", "125");
  EXPECT_TRUE(values().contains(QStringLiteral("25 %"))) << values().join(QLatin1Char(';')).toStdString();
  EXPECT_TRUE(values().contains(QStringLiteral("−20 %"))) << "and back";
  desk().findChild<QPushButton*>(QStringLiteral("deskCopyButton"))->click();
  EXPECT_TRUE(QGuiApplication::clipboard()->text().contains(QStringLiteral("−20 %")));
  choose("link_rate");
  EXPECT_EQ(field("generation").text(), QStringLiteral("Gen 3"));
}

// A picture of a frame and the transfer in it: whichever is longer fills the room, and the other one is to its scale.
TEST_F(Desk, DrawsAPartInItsWhole) {
  open();
  openDesk();
  choose("transfer_time");
  type("megabytes", "16");
  type("GBps", "4");
  EXPECT_FALSE(desk().findChild<QWidget*>(QStringLiteral("deskBeam"))) << "one number alone has no scale";
  type("fps", "125");
  const auto shareOf = [this] {  // of the filled part, in the width of the frame
    auto* beam = desk().findChild<QWidget*>(QStringLiteral("deskBeam"));
    const QImage image = beam->grab().toImage();
    const QColor filled(QLatin1String(app::currentPalette().changed));
    const QColor frame(QLatin1String(app::currentPalette().baseline));
    std::pair<int, int> widths{0, 0};
    for (int x = 0; x < image.width(); ++x) {
      if (image.pixelColor(x, image.height() / 2) == filled) widths.first = x;
      if (image.pixelColor(x, image.height() / 2 - 6) == frame) widths.second = x;
    }
    EXPECT_GT(std::min(widths.first, widths.second), 30);
    return static_cast<double>(widths.first) / widths.second;
  };
  EXPECT_NEAR(shareOf(), 0.5, 0.05) << "4 ms in a frame of 8 ms";
  type("fps", "500");
  EXPECT_NEAR(shareOf(), 2, 0.1) << "4 ms beside a frame of 2 ms";
}

TEST_F(Desk, KnowsTheBenchOfTheStudyAtHand) {
  openDemo();
  openDesk();
  choose("memory_rate");
  auto* button = desk().findChild<QPushButton*>(QStringLiteral("deskFromBenchButton"));
  ASSERT_TRUE(button->isEnabled()) << button->toolTip().toStdString();
  button->click();
  EXPECT_FALSE(values().isEmpty()) << said("deskTold").toStdString();
  choose("percent");
  EXPECT_FALSE(button->isEnabled());
}

// Each known answer as a person gets it: typed into the fields, read from the labels.
TEST_F(Desk, GivesEveryKnownAnswerInTheWindow) {
  open();
  openDesk();
  std::ifstream file(std::string(IRON_LEVER_VECTORS) + "/desk.json");
  const auto vectors = nlohmann::json::parse(file);
  int compared = 0;
  for (const auto& one : vectors["cases"]) {
    const std::string ask = one["input"]["ask"];
    choose(ask.c_str());
    core::DeskNumbers numbers;
    for (const core::DeskInput& input : core::findDeskAsk(ask)->inputs) {
      const std::string key(input.key);
      std::string text;
      if (const auto given = one["input"].find(key); given != one["input"].end()) {
        numbers[key] = given->is_array() ? given->get<std::vector<double>>() : std::vector{given->get<double>()};
        for (const double number : numbers[key]) text += fmt::format("{}{}", text.empty() ? "" : " ", number);
      }
      field(key.c_str()).setText(QString::fromStdString(text));
      Q_EMIT field(key.c_str()).textEdited(QString::fromStdString(text));
    }
    const auto answer = core::deskAnswer(ask, numbers);
    ASSERT_TRUE(answer.ok()) << one["name"];
    for (const core::DeskValue& value : *answer) {
      if (!one["expected"].contains(std::string(value.key))) continue;
      EXPECT_TRUE(values().contains(QString::fromStdString(core::deskValueText(value))))
          << one["name"] << ' ' << value.key << ": " << values().join(QLatin1Char(';')).toStdString();
      ++compared;
    }
  }
  EXPECT_GT(compared, 25);
}

TEST_F(Desk, CarriesANumberIntoTheStudy) {
  core::Study study = support::roundsOf(4, 2);
  openStudy(study);
  openDesk();
  auto* carry = desk().findChild<QPushButton*>(QStringLiteral("deskCarryButton"));
  EXPECT_FALSE(carry->isEnabled()) << "there is no answer yet";
  choose("link_rate");
  type("generation", "Gen 4 x8");
  ASSERT_TRUE(carry->isEnabled());
  QTest::keyClick(&field("lanes"), Qt::Key_Return, Qt::ControlModifier);
  ASSERT_TRUE(carry->menu()->isVisible()) << "both levels may offer it";
  const auto actions = carry->menu()->actions();
  ASSERT_GE(actions.size(), 2);
  actions[1]->trigger();
  carry->menu()->close();
  EXPECT_NEAR(study_->study().variable().levels[1].resource.value_or(0), 15.7538, 1e-3);
  EXPECT_EQ(study_->study().variable().resource_unit, "GB/s");
}

}  // namespace
