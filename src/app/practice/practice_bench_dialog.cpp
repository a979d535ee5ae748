#include "app/practice/practice_bench_dialog.h"

#include <QComboBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/model/qt_text.h"
#include "app/shell/theme.h"

namespace app {
namespace {

/// An open machine from above: a board with a socket, the part that sits in it, and what lies beside.
class OpenMachine final : public QWidget {
 public:
  OpenMachine(QString in_socket, QString beside, QWidget* parent)
      : QWidget(parent), in_socket_(std::move(in_socket)), beside_(std::move(beside)) {
    setMinimumSize(460, 200);
    setObjectName(QStringLiteral("openMachine"));
    setAccessibleName(tr("the open machine"));
  }
  void swap() {
    std::swap(in_socket_, beside_);
    update();
  }
  [[nodiscard]] const QString& inSocket() const { return in_socket_; }

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(theme().line, 2));
    painter.setBrush(theme().sheet);
    painter.drawRoundedRect(QRectF(2, 2, 270, 196), 6, 6);  // the board
    for (int slot = 0; slot < 4; ++slot) painter.drawRect(QRectF(200 + 14 * slot, 20, 8, 110));
    painter.drawRect(QRectF(20, 160, 170, 12));
    part(painter, QRectF(40, 34, 120, 100), in_socket_, theme().focus);
    part(painter, QRectF(316, 34, 120, 100), beside_, theme().soft_ink);
    painter.setPen(theme().soft_ink);
    painter.setFont(textFont(TextSize::Small));
    painter.drawText(QRectF(300, 140, 152, 20), Qt::AlignCenter, tr("beside it"));
  }

 private:
  static void part(QPainter& painter, const QRectF& place, const QString& name, const QColor& colour) {
    painter.setPen(QPen(colour, 2));
    painter.drawRect(place);
    painter.setPen(QPen(colour, 1));
    for (int pin = 1; pin < 8; ++pin) {
      const double at = place.left() + pin * place.width() / 8;
      painter.drawLine(QPointF(at, place.bottom()), QPointF(at, place.bottom() + 6));
    }
    painter.setPen(theme().ink);
    painter.setFont(textFont(TextSize::Normal, true));
    painter.drawText(place, Qt::AlignCenter | Qt::TextWordWrap, name);
  }
  QString in_socket_;
  QString beside_;
};

}  // namespace

PracticeBenchDialog::PracticeBenchDialog(const session::PracticeTry& about, const QString& bench, QWidget* parent)
    : QDialog(parent), about_(about) {
  setObjectName(QStringLiteral("practiceBenchDialog"));
  if (about.flip == session::PracticeFlip::Part)
    buildPart(bench);
  else
    buildMenu(bench);
}

void PracticeBenchDialog::restart(const QString& assignment) {
  Q_EMIT restarted(assignment);
  accept();
}

void PracticeBenchDialog::buildMenu(const QString& bench) {
  setWindowTitle(tr("Firmware setup of %1").arg(bench));
  auto* profile = new QComboBox(this);
  profile->setObjectName(QStringLiteral("practiceSettingBox"));
  profile->addItem(tr("as it is"), QString());
  for (const auto& [level, assignment] : about_.settings) profile->addItem(toQt(level), toQt(assignment));
  auto* form = new QFormLayout;
  form->addRow(tr("set to"), profile);
  auto* words = new QLabel(tr("What is chosen here takes effect when it is saved and the machine restarts. Leaving "
                              "without saving restarts it as it was."),
                           this);
  words->setWordWrap(true);
  auto* save = new QPushButton(tr("Save and restart"), this);
  save->setObjectName(QStringLiteral("practiceSaveButton"));
  auto* leave = new QPushButton(tr("Leave without saving"), this);
  leave->setObjectName(QStringLiteral("practiceLeaveButton"));
  auto* row = new QHBoxLayout;
  row->addStretch(1);
  row->addWidget(leave);
  row->addWidget(save);
  auto* column = new QVBoxLayout(this);
  column->setSpacing(12);
  column->addLayout(form);
  column->addWidget(words);
  column->addLayout(row);
  resize(460, 0);
  connect(save, &QPushButton::clicked, this, [this, profile] { restart(profile->currentData().toString()); });
  connect(leave, &QPushButton::clicked, this, [this] { restart({}); });
}

// Two parts: the one that the bench began with, and the other.
void PracticeBenchDialog::buildPart(const QString& bench) {
  setWindowTitle(tr("%1, switched off and open").arg(bench));
  const QString first = toQt(about_.settings.begin()->first);
  const QString second = toQt(about_.settings.rbegin()->first);
  auto* machine = new OpenMachine(first, second, this);
  auto* words = new QLabel(tr("Switched off, unplugged and discharged; the maker's manual says how the part comes out. "
                              "An exercise: nothing here is a real machine."),
                           this);
  words->setWordWrap(true);
  auto* swap = new QPushButton(tr("Exchange the two"), this);
  swap->setObjectName(QStringLiteral("practiceSwapButton"));
  auto* on = new QPushButton(tr("Close it and switch on"), this);
  on->setObjectName(QStringLiteral("practiceSwitchOnButton"));
  auto* row = new QHBoxLayout;
  row->addStretch(1);
  row->addWidget(swap);
  row->addWidget(on);
  auto* column = new QVBoxLayout(this);
  column->setSpacing(12);
  column->addWidget(machine);
  column->addWidget(words);
  column->addLayout(row);
  connect(swap, &QPushButton::clicked, machine, &OpenMachine::swap);
  connect(on, &QPushButton::clicked, this, [this, machine, first] {
    const auto found = about_.settings.find(machine->inSocket().toStdString());
    restart(machine->inSocket() == first || found == about_.settings.end() ? QString() : toQt(found->second));
  });
}

}  // namespace app
