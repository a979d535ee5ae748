#include "app/practice/practice_window.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QScrollArea>
#include <QStackedWidget>
#include <QVBoxLayout>
#include <array>

#include "app/model/qt_text.h"
#include "app/practice/claims_picture.h"
#include "app/practice/practice_bench_dialog.h"
#include "app/shell/theme.h"
#include "app/shell/usable.h"

namespace app {
namespace {

constexpr std::array kPaces{0.0, 0.01, 0.1, 1.0};  ///< of real time, in the order in which they are offered

QLabel* wordsIn(QWidget* parent, const char* name) {
  auto* label = new QLabel(parent);
  label->setObjectName(QLatin1String(name));
  label->setWordWrap(true);
  label->setTextFormat(Qt::PlainText);
  label->setAlignment(Qt::AlignTop | Qt::AlignLeft);
  return label;
}

QPushButton* buttonIn(QWidget* parent, const char* name, const QString& text) {
  auto* button = new QPushButton(text, parent);
  button->setObjectName(QLatin1String(name));
  return button;
}

}  // namespace

PracticeWindow::PracticeWindow(PracticeModel& model, QWidget* parent)
    : QDialog(parent), model_(model), pages_(new QStackedWidget(this)) {
  setObjectName(QStringLiteral("practiceWindow"));
  setWindowTitle(tr("Practice"));
  resize(820, 560);
  pages_->addWidget(listPage());
  pages_->addWidget(tryPage());
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(20, 16, 20, 16);
  column->addWidget(pages_);
  connect(&model_, &PracticeModel::changed, this, &PracticeWindow::refresh);
  list_->setCurrentRow(0);
  refresh();
}

QDoubleSpinBox* PracticeWindow::percentBox(const char* name, const QString& what, double from, double to) {
  auto* box = new QDoubleSpinBox(this);
  box->setObjectName(QLatin1String(name));
  box->setAccessibleName(what);
  box->setRange(from, to);
  box->setDecimals(2);
  box->setSuffix(tr(" %"));
  return box;
}

QWidget* PracticeWindow::freeChoices() {
  auto* page = new QWidget(this);
  chooses_ = new QCheckBox(tr("I choose these; else they are drawn"), page);
  chooses_->setObjectName(QStringLiteral("practiceChoosesBox"));
  effect_ = percentBox("practiceEffectBox", tr("what is true"), -50, 100);
  noise_ = percentBox("practiceNoiseBox", tr("noise from pass to pass"), 0, 20);
  flips_ = percentBox("practiceFlipsBox", tr("what a flip adds"), 0, 20);
  effect_->setValue(3);
  noise_->setValue(0.5);
  flips_->setValue(0.5);
  auto* form = new QFormLayout(page);
  form->setContentsMargins(0, 0, 0, 0);
  form->addRow(chooses_);
  form->addRow(tr("true change"), effect_);
  form->addRow(tr("from pass to pass"), noise_);
  form->addRow(tr("a flip adds"), flips_);
  const auto allow = [this] {
    for (QDoubleSpinBox* box : {effect_, noise_, flips_})
      setUsable(*box, chooses_->isChecked() ? QString() : tr("It is drawn"));
  };
  connect(chooses_, &QCheckBox::toggled, this, allow);
  allow();
  return page;
}

QWidget* PracticeWindow::listPage() {
  auto* page = new QWidget(this);
  list_ = new QListWidget(page);
  list_->setObjectName(QStringLiteral("practiceList"));
  list_->setAccessibleName(tr("exercises"));
  list_->setFixedWidth(300);
  list_->setSpacing(5);
  for (const session::Exercise& one : model_.exercises()) list_->addItem(toQt(one.title));
  about_ = wordsIn(page, "practiceAboutLabel");
  free_ = freeChoices();
  pace_ = new QComboBox(page);
  pace_->setObjectName(QStringLiteral("practicePaceBox"));
  pace_->addItems({tr("at once"), tr("a hundred times as fast"), tr("ten times as fast"), tr("as at a real bench")});
  auto* pace = new QFormLayout;
  pace->addRow(tr("its clock runs"), pace_);
  auto* begin = buttonIn(page, "practiceBeginButton", tr("Begin"));
  begin->setDefault(true);
  record_ = wordsIn(page, "practiceRecordLabel");
  record_->setProperty("soft", true);
  forget_ = buttonIn(page, "practiceForgetButton", tr("Delete my record"));
  auto* right = new QVBoxLayout;
  right->setSpacing(12);
  right->addWidget(about_);
  right->addWidget(free_);
  right->addLayout(pace);
  auto* go = new QHBoxLayout;
  go->addStretch(1);
  go->addWidget(begin);
  right->addLayout(go);
  right->addStretch(1);
  right->addWidget(record_);
  auto* gone = new QHBoxLayout;
  gone->addStretch(1);
  gone->addWidget(forget_);
  right->addLayout(gone);
  auto* row = new QHBoxLayout(page);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(20);
  row->addWidget(list_);
  row->addLayout(right, 1);
  connect(list_, &QListWidget::currentRowChanged, this, &PracticeWindow::showExercise);
  connect(begin, &QPushButton::clicked, this, &PracticeWindow::begin);
  connect(forget_, &QPushButton::clicked, &model_, &PracticeModel::forget);
  return page;
}

QWidget* PracticeWindow::claimForm() {
  auto* form_box = new QWidget(this);
  percent_ = percentBox("practicePercentBox", tr("by how many percent"), -99, 1000);
  lo_ = percentBox("practiceLoBox", tr("lower end"), -99, 1000);
  hi_ = percentBox("practiceHiBox", tr("upper end"), -99, 1000);
  recommend_ = new QComboBox(form_box);
  recommend_->setObjectName(QStringLiteral("practiceRecommendBox"));
  recommend_->addItems({tr("use the changed level"), tr("keep the baseline"), tr("it cannot be said yet")});
  doubts_ = new QLineEdit(form_box);
  doubts_->setObjectName(QStringLiteral("practiceDoubtsEdit"));
  doubts_->setPlaceholderText(tr("which doubts you dealt with, and how"));
  auto* ends = new QHBoxLayout;
  ends->addWidget(lo_);
  ends->addWidget(new QLabel(tr("to"), form_box));
  ends->addWidget(hi_);
  ends->addStretch(1);
  auto* form = new QFormLayout(form_box);
  form->setContentsMargins(0, 0, 0, 0);
  auto* middle = new QHBoxLayout;
  middle->addWidget(percent_);
  middle->addStretch(1);
  form->addRow(tr("it changes by"), middle);
  form->addRow(tr("in 95 of 100 cases"), ends);
  form->addRow(tr("I recommend"), recommend_);
  form->addRow(tr("doubts"), doubts_);
  auto* sign = buttonIn(form_box, "practiceSignButton", tr("Sign, once, and see what is true"));
  auto* last = new QHBoxLayout;
  last->addStretch(1);
  last->addWidget(sign);
  form->addRow(last);
  connect(sign, &QPushButton::clicked, this, &PracticeWindow::sign);
  return form_box;
}

QWidget* PracticeWindow::tryPage() {
  auto* page = new QWidget(this);
  title_ = wordsIn(page, "practiceTitleLabel");
  title_->setFont(textFont(TextSize::Large, true));
  story_ = wordsIn(page, "practiceStoryLabel");
  bench_ = buttonIn(page, "practiceBenchButton", tr("Go to the bench …"));
  restarts_ = buttonIn(page, "practiceRestartsButton", tr("Measure restarts alone first"));
  main_study_ = buttonIn(page, "practiceStudyButton", tr("Open the exercise's study"));
  claim_ = claimForm();
  picture_ = new ClaimsPicture(page);
  outcome_ = wordsIn(page, "practiceOutcomeLabel");
  outcome_->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
  auto* scroll = new QScrollArea(page);
  scroll->setWidget(outcome_);
  scroll->setWidgetResizable(true);
  auto* another = buttonIn(page, "practiceAnotherButton", tr("Another exercise"));
  auto* acts = new QHBoxLayout;
  for (QPushButton* one : {bench_, restarts_, main_study_}) acts->addWidget(one);
  acts->addStretch(1);
  auto* last = new QHBoxLayout;
  last->addStretch(1);
  last->addWidget(another);
  auto* column = new QVBoxLayout(page);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(12);
  column->addWidget(title_);
  column->addWidget(story_);
  column->addLayout(acts);
  column->addWidget(claim_);
  column->addWidget(picture_);
  column->addWidget(scroll, 1);
  column->addLayout(last);
  connect(bench_, &QPushButton::clicked, this, &PracticeWindow::openBench);
  connect(restarts_, &QPushButton::clicked, this,
          [this] { Q_EMIT model_.openRequested(QString::fromStdString(model_.inHand()->restarts_first)); });
  connect(main_study_, &QPushButton::clicked, this,
          [this] { Q_EMIT model_.openRequested(QString::fromStdString(model_.inHand()->study)); });
  connect(another, &QPushButton::clicked, this, [this] { pages_->setCurrentIndex(0); });
  return page;
}

void PracticeWindow::showExercise() {
  const int row = list_->currentRow();
  if (row < 0) return;
  const session::Exercise& one = model_.exercises()[static_cast<std::size_t>(row)];
  about_->setText(tr("It teaches %1.\n\n%2\n\n%3").arg(toQt(one.teaches), toQt(one.story), toQt(one.asks)));
  free_->setVisible(one.isFree());
}

void PracticeWindow::begin() {
  const int row = list_->currentRow();
  if (row < 0) return;
  session::PracticeStart start;
  start.exercise = model_.exercises()[static_cast<std::size_t>(row)].id;
  start.pace = kPaces.at(static_cast<std::size_t>(pace_->currentIndex()));
  if (free_->isVisible() && chooses_->isChecked())
    start.chosen = {{"gain", effect_->value()}, {"noise", noise_->value()}, {"flips", flips_->value()}};
  model_.begin(start);
}

void PracticeWindow::sign() {
  const session::PracticeClaim claim{percent_->value(), lo_->value(), hi_->value(),
                                     static_cast<session::Recommendation>(recommend_->currentIndex()),
                                     doubts_->text().trimmed().toStdString()};
  model_.sign(claim);
}

void PracticeWindow::openBench() {
  const auto& about = model_.inHand();
  if (!about) return;
  auto* dialog = new PracticeBenchDialog(*about, model_.benchName(), this);
  dialog->setAttribute(Qt::WA_DeleteOnClose);
  connect(dialog, &PracticeBenchDialog::restarted, &model_, &PracticeModel::setBench);
  dialog->open();
}

void PracticeWindow::showOutcome() {
  const auto& outcome = model_.outcome();
  picture_->setVisible(outcome.has_value());
  if (!outcome) return outcome_->setText({});
  picture_->show(*outcome);
  QStringList lines;
  const auto points = [&](const QString& name, const session::PracticePoints& one) {
    lines << tr("%1, %2 of 100: %3").arg(name).arg(one.points).arg(toQt(one.why));
  };
  points(tr("Sound"), outcome->sound);
  points(tr("Alone"), outcome->alone);
  points(tr("Thrifty"), outcome->thrifty);
  lines << QString();
  for (const std::string& one : outcome->decisions) lines << tr("· %1").arg(toQt(one));
  lines << QString() << toQt(outcome->take_away);
  outcome_->setText(lines.join(QLatin1Char('\n')));
}

void PracticeWindow::refresh() {
  const auto& about = model_.inHand();
  const QStringList record = model_.record();
  record_->setText(record.join(QLatin1Char('\n')));
  setUsable(*forget_, record.size() > 1 ? QString() : tr("Nothing is remembered yet"));
  // Another try is turned to, with nothing claimed yet; whoever looks at the list stays there.
  if (const std::string now = about ? about->truth_sha256 : ""; std::exchange(shown_, now) != now) {
    pages_->setCurrentIndex(about ? 1 : 0);
    for (QDoubleSpinBox* box : {percent_, lo_, hi_}) box->setValue(0);
    doubts_->clear();
  }
  if (!about) return;
  title_->setText(toQt(about->title));
  story_->setText(tr("%1\n\n%2").arg(toQt(about->story), toQt(about->asks)));
  bench_->setVisible(about->flip != session::PracticeFlip::Program);
  restarts_->setVisible(!about->restarts_first.empty());
  claim_->setVisible(!about->is_signed);
  showOutcome();
}

}  // namespace app
