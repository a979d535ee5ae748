#include "app/passes/typing_view.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QLabel>
#include <QPushButton>
#include <QTableView>
#include <QTimer>
#include <QVBoxLayout>

namespace app {

void TypingView::connectParts(QPushButton* proof) {
  connect(&results_, &TypedResultsModel::refused, this, [this](const QString& sentence) {
    said_->setText(sentence);
    askForDecimals();
  });
  for (QPushButton* answer : {thousands_, decimals_})
    connect(answer, &QPushButton::clicked, this, [this, answer] {
      const int next = results_.sayDecimals(answer == decimals_);
      if (!results_.openNumber()) said_->clear();
      askForDecimals();
      goOnFrom(next - 1);
    });
  connect(proof, &QPushButton::clicked, this, [this] {
    const int row = table_->currentIndex().row();
    const qint64 pass = results_.passAt(row);
    if (pass == 0) return said_->setText(tr("Choose a result first."));
    Q_EMIT proofRequested(pass, results_.index(row, TypedResultsModel::PassColumn).data(Qt::DisplayRole).toString());
  });
}

TypingView::TypingView(TypedResultsModel& results, QWidget* parent)
    : QWidget(parent), results_(results), table_(new QTableView(this)), said_(new QLabel(this)) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  auto* key = new QLabel(
      tr("Type and press Enter. 57.3 and 57,3 are the same; “50 to 60” is a range, which is less precise; sub-scores "
         "follow after a semicolon: 57.3; sky 41.2. A column from a spreadsheet can be pasted."),
      this);
  key->setProperty("soft", true);
  key->setWordWrap(true);
  table_->setObjectName(QStringLiteral("typedResults"));
  table_->setAccessibleName(tr("typed results"));
  table_->setModel(&results_);
  table_->verticalHeader()->hide();
  table_->verticalHeader()->setDefaultSectionSize(28);
  table_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  table_->horizontalHeader()->setStretchLastSection(true);
  table_->setShowGrid(false);
  table_->setTabKeyNavigation(false);  // Enter leads to the next result
  table_->setSelectionMode(QAbstractItemView::SingleSelection);
  table_->setEditTriggers(QAbstractItemView::AnyKeyPressed | QAbstractItemView::DoubleClicked |
                          QAbstractItemView::SelectedClicked | QAbstractItemView::EditKeyPressed);
  table_->installEventFilter(this);
  for (const auto& [section, width] : {std::pair{0, 130}, std::pair{1, 130}, std::pair{2, 200}, std::pair{3, 150}})
    table_->setColumnWidth(section, width);
  said_->setObjectName(QStringLiteral("typingSaid"));
  said_->setWordWrap(true);
  auto* proof = new QPushButton(tr("Keep a picture as proof …"), this);
  proof->setObjectName(QStringLiteral("proofButton"));
  auto* foot = new QHBoxLayout;
  foot->addWidget(said_, 1);
  foot->addWidget(proof);
  ask_ = new QWidget(this);
  ask_->setObjectName(QStringLiteral("decimalQuestion"));
  thousands_ = new QPushButton(ask_);
  thousands_->setObjectName(QStringLiteral("thousandsButton"));
  decimals_ = new QPushButton(ask_);
  decimals_->setObjectName(QStringLiteral("decimalsButton"));
  auto* ask_row = new QHBoxLayout(ask_);
  ask_row->setContentsMargins(0, 0, 0, 0);
  ask_row->addWidget(new QLabel(tr("Which is meant?"), ask_));
  ask_row->addWidget(thousands_);
  ask_row->addWidget(decimals_);
  ask_row->addStretch(1);
  ask_->hide();
  column->addWidget(key);
  column->addWidget(table_, 1);
  column->addWidget(ask_);
  column->addLayout(foot);
  connectParts(proof);
  // An entry that was taken leads to the next row, once the editor has closed.
  connect(&results_, &TypedResultsModel::dataChanged, this, [this] {
    const QPersistentModelIndex typed = table_->currentIndex();
    if (!table_->isVisible() || typed.data(Qt::EditRole).toString().isEmpty()) return;
    said_->clear();
    QTimer::singleShot(0, this, [this, typed] {
      if (table_->currentIndex() == typed) goTo(results_.nextCell(typed));
    });
  });
}

// Both readings as buttons; what is chosen holds for the numbers that follow.
void TypingView::askForDecimals() {
  const auto& open = results_.openNumber();
  ask_->setVisible(open.has_value());
  if (!open) return;
  thousands_->setText(tr("%1 (thousands)").arg(open->thousands));
  decimals_->setText(tr("%1 (decimals)").arg(open->decimals));
}

void TypingView::begin() { goOnFrom(std::max(0, results_.firstOpenRow()) - 1); }

void TypingView::goOnFrom(int row) { goTo(results_.index(row + 1, TypedResultsModel::ResultColumn)); }

void TypingView::goTo(const QModelIndex& next) {
  if (!next.isValid()) return;
  table_->setCurrentIndex(next);
  table_->setFocus();
}

void TypingView::paste() {
  const QString text = QGuiApplication::clipboard()->text();
  QStringList lines = text.split(QLatin1Char('\n'));
  for (QString& line : lines) line = results_.rowText(line);
  const int row = std::max(0, table_->currentIndex().row());
  goOnFrom(results_.typeLines(row, lines) - 1);
}

bool TypingView::eventFilter(QObject* watched, QEvent* event) {
  if (watched == table_ && event->type() == QEvent::KeyPress &&
      static_cast<QKeyEvent*>(event)->matches(QKeySequence::Paste)) {
    paste();
    return true;
  }
  return QWidget::eventFilter(watched, event);
}

}  // namespace app
