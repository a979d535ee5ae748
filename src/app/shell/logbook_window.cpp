#include "app/shell/logbook_window.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTableView>
#include <QTextDocument>
#include <QVBoxLayout>
#include <algorithm>

#include "app/shell/theme.h"

namespace app {
namespace {

QTableView* tableOf(QAbstractItemModel& model, QWidget* parent) {
  auto* table = new QTableView(parent);
  table->setTabKeyNavigation(false);
  table->setObjectName(QStringLiteral("logbookTable"));
  table->setAccessibleName(QObject::tr("What happened, newest first"));
  table->setModel(&model);
  table->verticalHeader()->hide();
  table->verticalHeader()->setDefaultSectionSize(24);
  table->setShowGrid(false);
  table->setSelectionBehavior(QAbstractItemView::SelectRows);
  table->horizontalHeader()->setStretchLastSection(true);
  table->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  for (const int column : {LogbookModel::ClockColumn, LogbookModel::PersonColumn})
    table->horizontalHeader()->setSectionResizeMode(column, QHeaderView::ResizeToContents);
  table->setWordWrap(true);
  table->verticalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
  return table;
}

}  // namespace

LogbookWindow::LogbookWindow(LogbookModel& logbook, QWidget* parent)
    : QDialog(parent),
      filter_(logbook),
      find_(new QLineEdit(this)),
      people_(new QComboBox(this)),
      kinds_(new QComboBox(this)),
      count_(new QLabel(this)) {
  setObjectName(QStringLiteral("logbookWindow"));
  setWindowTitle(tr("Logbook"));
  resize(820, 480);
  find_->setObjectName(QStringLiteral("logbookFind"));
  find_->setPlaceholderText(tr("Find words"));
  find_->setClearButtonEnabled(true);
  people_->setObjectName(QStringLiteral("logbookPeople"));
  people_->setAccessibleName(tr("Who did it"));
  kinds_->setObjectName(QStringLiteral("logbookKinds"));
  kinds_->setAccessibleName(tr("What it is about"));
  kinds_->addItem(tr("everything"));
  kinds_->addItems(LogbookModel::kindNames());
  count_->setObjectName(QStringLiteral("logbookCount"));
  count_->setProperty("soft", true);
  auto* note = new QPushButton(tr("Add a note"), this);
  note->setObjectName(QStringLiteral("addNoteButton"));
  auto* observed = new QPushButton(tr("Add what was noticed …"), this);
  observed->setObjectName(QStringLiteral("addObservationButton"));
  observed->setToolTip(tr("Something beside what is measured, with a picture of it or none: it stands in the report"));
  auto* print = new QPushButton(tr("Print what is shown …"), this);
  print->setObjectName(QStringLiteral("printLogbookButton"));
  for (QPushButton* button : {note, observed, print}) button->setAutoDefault(false);
  auto* top = new QHBoxLayout;
  top->addWidget(find_, 1);
  top->addWidget(people_);
  top->addWidget(kinds_);
  auto* bottom = new QHBoxLayout;
  bottom->addWidget(count_, 1);
  bottom->addWidget(print);
  bottom->addWidget(observed);
  bottom->addWidget(note);
  auto* layout = new QVBoxLayout(this);
  layout->addLayout(top);
  layout->addWidget(tableOf(filter_, this));
  layout->addLayout(bottom);
  connect(find_, &QLineEdit::textChanged, &filter_, &LogbookFilter::setWords);
  connect(people_, &QComboBox::currentIndexChanged, this,
          [this](int at) { filter_.setPerson(at > 0 ? people_->currentText() : QString()); });
  connect(kinds_, &QComboBox::currentIndexChanged, this, [this](int at) { filter_.setKind(at - 1); });
  connect(&logbook, &QAbstractItemModel::modelReset, this, &LogbookWindow::fillPeople);
  connect(&filter_, &QAbstractItemModel::modelReset, this, &LogbookWindow::count);
  connect(&filter_, &QAbstractItemModel::rowsInserted, this, &LogbookWindow::count);
  connect(&filter_, &QAbstractItemModel::rowsRemoved, this, &LogbookWindow::count);
  connect(note, &QPushButton::clicked, this, &LogbookWindow::noteRequested);
  connect(observed, &QPushButton::clicked, this, &LogbookWindow::observationRequested);
  connect(print, &QPushButton::clicked, this, &LogbookWindow::printRequested);
  fillPeople();
  count();
}

// Whoever is chosen stays chosen, while others come in.
void LogbookWindow::fillPeople() {
  const QString chosen = people_->currentIndex() > 0 ? people_->currentText() : QString();
  const QSignalBlocker blocked(people_);
  people_->clear();
  people_->addItem(tr("everybody"));
  people_->addItems(filter_.people());
  people_->setCurrentIndex(chosen.isEmpty() ? 0 : std::max(0, people_->findText(chosen)));
  filter_.setPerson(people_->currentIndex() > 0 ? chosen : QString());
}

void LogbookWindow::count() {
  const int shown = filter_.rowCount();
  const int all = filter_.sourceModel()->rowCount();
  count_->setText(shown == all ? tr("%1 lines").arg(all) : tr("%1 of %2 lines").arg(shown).arg(all));
}

void LogbookWindow::print(QPagedPaintDevice& paper) const {
  QString html = QStringLiteral("<h2>%1</h2><table cellpadding=\"3\">").arg(windowTitle().toHtmlEscaped());
  for (int row = 0; row < filter_.rowCount(); ++row) {
    html += QStringLiteral("<tr>");
    for (int column = 0; column < LogbookModel::ColumnCount; ++column)
      html += QStringLiteral("<td>%1</td>").arg(filter_.index(row, column).data().toString().toHtmlEscaped());
    html += QStringLiteral("</tr>");
  }
  QTextDocument document;
  document.setDefaultFont(textFont(TextSize::Small));
  document.setHtml(html + QStringLiteral("</table>"));
  document.print(&paper);
}

}  // namespace app
