#include "app/desk/desk_window.h"

#include <QClipboard>
#include <QFormLayout>
#include <QGridLayout>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

#include <fmt/format.h>

#include "app/model/qt_text.h"
#include "app/shell/theme.h"
#include "app/shell/usable.h"
#include "report/report.h"

namespace app {
namespace {

QString shown(std::string_view text) { return toQt(std::string(text)); }

QLabel* wrapping(QWidget* parent, const char* name) {
  auto* label = new QLabel(parent);
  label->setObjectName(QLatin1String(name));
  label->setWordWrap(true);
  label->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
  return label;
}

/// A number as a beam, to the scale of the largest one beside it; a part of a whole lies in the whole's frame.
class Beam final : public QWidget {
 public:
  Beam(double share, double whole, QWidget* parent) : QWidget(parent), share_(share), whole_(whole) {
    setMinimumSize(120, 16);
    setObjectName(QStringLiteral("deskBeam"));
  }

 protected:
  void paintEvent(QPaintEvent*) override {
    constexpr int kThick = 6;
    QPainter painter(this);
    painter.fillRect(0, (height() - kThick) / 2, std::max(2, static_cast<int>(share_ * width())), kThick,
                     QColor(QLatin1String(currentPalette().changed)));
    if (whole_ <= 0) return;
    painter.setPen(QColor(QLatin1String(currentPalette().baseline)));
    painter.drawRect(0, height() / 2 - kThick, static_cast<int>(whole_ * (width() - 1)), 2 * kThick);
  }

 private:
  double share_;
  double whole_;
};

}  // namespace

DeskWindow::DeskWindow(StudyModel& study, QWidget* parent)
    : QDialog(parent),
      study_(study),
      asks_(new QListWidget(this)),
      title_(wrapping(this, "deskTitle")),
      form_(new QFormLayout),
      from_bench_(new QPushButton(tr("From this bench"), this)),
      copy_(new QPushButton(tr("Copy the answer"), this)),
      carry_(new QPushButton(tr("Carry into the study"), this)),
      answers_(new QGridLayout),
      told_(wrapping(this, "deskTold")),
      formula_(wrapping(this, "deskFormula")),
      mind_(wrapping(this, "deskMind")) {
  setObjectName(QStringLiteral("deskWindow"));
  setWindowTitle(tr("Desk: sums for planning"));
  asks_->setObjectName(QStringLiteral("deskAsks"));
  asks_->setAccessibleName(tr("What can be asked"));
  for (const core::DeskAsk& ask : core::deskAsks()) asks_->addItem(shown(ask.title));
  asks_->setFixedWidth(asks_->sizeHintForColumn(0) + 24);
  asks_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  title_->setFont(textFont(TextSize::Large, true));
  formula_->setProperty("soft", true);
  mind_->setProperty("soft", true);
  from_bench_->setObjectName(QStringLiteral("deskFromBenchButton"));
  copy_->setObjectName(QStringLiteral("deskCopyButton"));
  from_bench_->setAutoDefault(false);
  copy_->setAutoDefault(false);
  carry_->setObjectName(QStringLiteral("deskCarryButton"));
  carry_->setAutoDefault(false);
  carry_->setMenu(new QMenu(carry_));
  carry_->setToolTip(tr("Ctrl+Return"));
  auto* right = new QWidget(this);
  layOut(right);
  auto* row = new QHBoxLayout(this);
  row->addWidget(asks_);
  row->addWidget(right, 1);
  resize(860, 520);
  connect(asks_, &QListWidget::currentRowChanged, &model_, &DeskModel::choose);
  connect(asks_, &QListWidget::currentRowChanged, this, &DeskWindow::showAsk);
  connect(&model_, &DeskModel::changed, this, &DeskWindow::showAnswer);
  connect(from_bench_, &QPushButton::clicked, this, [this] {
    model_.takeFromBench();
    showAsk();
  });
  connect(copy_, &QPushButton::clicked, this, &DeskWindow::copyAnswer);
  connect(carry_->menu(), &QMenu::aboutToShow, this, &DeskWindow::fillCarries);
  asks_->setCurrentRow(0);
}

void DeskWindow::layOut(QWidget* right) {
  form_->setFieldGrowthPolicy(QFormLayout::ExpandingFieldsGrow);
  answers_->setColumnStretch(1, 1);
  answers_->setColumnStretch(2, 1);
  answers_->setHorizontalSpacing(24);
  auto* buttons = new QHBoxLayout;
  buttons->addWidget(from_bench_);
  buttons->addWidget(copy_);
  buttons->addWidget(carry_);
  buttons->addStretch();
  auto* column = new QVBoxLayout(right);
  column->addWidget(title_);
  column->addLayout(form_);
  column->addLayout(buttons);
  column->addSpacing(8);
  column->addWidget(told_);
  column->addLayout(answers_);
  column->addStretch();
  column->addWidget(formula_);
  column->addWidget(mind_);
}

void DeskWindow::setBench(const core::Capture* capture, const std::string& device) { model_.setBench(capture, device); }

void DeskWindow::showAsk() {
  const core::DeskAsk& ask = model_.ask();
  title_->setText(shown(ask.title));
  while (form_->rowCount() > 0) form_->removeRow(0);
  fields_.clear();
  for (int i = 0; i < static_cast<int>(ask.inputs.size()); ++i) {
    const core::DeskInput& input = ask.inputs[static_cast<std::size_t>(i)];
    auto* field = new QLineEdit(model_.typed(i), this);
    field->setObjectName(QStringLiteral("desk-") + shown(input.key));
    QString hint = input.is_list ? tr("several, with blanks between") : QString();
    if (input.usually) hint = tr("%1 where nothing stands here").arg(toQt(fmt::format("{:.6g}", *input.usually)));
    if (!input.is_needed && !input.usually) hint = tr("may stay empty");
    field->setPlaceholderText(hint);
    QString label = shown(input.title);
    label[0] = label[0].toUpper();
    form_->addRow(input.unit.empty() ? label : tr("%1, %2").arg(label, shown(input.unit)), field);
    fields_.push_back(field);
    connect(field, &QLineEdit::textEdited, this, [this, i](const QString& text) { model_.type(i, text); });
  }
  formula_->setText(tr("By: %1").arg(shown(ask.formula)));
  mind_->setText(tr("Mind: %1").arg(shown(ask.does_not_say)));
  showAnswer();
}

void DeskWindow::showAnswer() {
  setUsable(*from_bench_, model_.knowsBench() ? QString() : tr("No bench that was read tells a number of this"));
  setUsable(*copy_, model_.answers().empty() ? tr("There is no answer yet") : QString());
  const bool is_carried = study_.hasStudy() && !carriesOf(model_, study_.study()).empty();
  setUsable(*carry_, is_carried ? QString()
                     : study_.hasStudy()
                         ? tr("No number of this answer is a threshold, an expectation or what a level offers")
                         : tr("No study is open"));
  while (QLayoutItem* item = answers_->takeAt(0)) {
    delete item->widget();
    delete item;
  }
  told_->setText(model_.told());
  told_->setVisible(!model_.told().isEmpty());
  int row = 0;
  for (const DeskModel::Answer& one : model_.answers()) {
    auto* value = wrapping(this, "deskValue");
    value->setText(one.value);
    value->setFont(textFont(TextSize::Normal, true));
    value->setAccessibleName(one.title);
    answers_->addWidget(new QLabel(one.title, this), row, 0, Qt::AlignTop);
    answers_->addWidget(value, row, 1);
    if (one.share > 0) answers_->addWidget(new Beam(one.share, one.whole, this), row, 2);
    ++row;
  }
}

void DeskWindow::fillCarries() {
  carry_->menu()->clear();
  if (!study_.hasStudy()) return;
  for (const DeskCarry& one : carriesOf(model_, study_.study()))
    carry_->menu()->addAction(one.text, this, [this, one] { Q_EMIT carryRequested(one); });
}

void DeskWindow::keyPressEvent(QKeyEvent* event) {
  const bool is_return = event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter;
  if (is_return && event->modifiers().testFlag(Qt::ControlModifier)) return carryByKey();
  QDialog::keyPressEvent(event);
}

// What can be carried in one way only is carried at once.
void DeskWindow::carryByKey() {
  if (!carry_->isEnabled() || !study_.hasStudy()) return;
  const auto carries = carriesOf(model_, study_.study());
  if (carries.size() == 1) return Q_EMIT carryRequested(carries.front());
  fillCarries();
  carry_->menu()->popup(carry_->mapToGlobal(QPoint(0, carry_->height())));
}

void DeskWindow::copyAnswer() {
  QStringList lines{title_->text()};
  for (std::size_t i = 0; i < fields_.size(); ++i)
    if (!fields_[i]->text().trimmed().isEmpty())
      lines << QStringLiteral("%1: %2").arg(shown(model_.ask().inputs[i].title), fields_[i]->text().trimmed());
  for (const DeskModel::Answer& one : model_.answers()) lines << QStringLiteral("%1: %2").arg(one.title, one.value);
  lines << formula_->text() << mind_->text();
  QGuiApplication::clipboard()->setText(lines.join(QLatin1Char('\n')));
}

}  // namespace app
