#include "app/shell/logbook_window.h"

#include <QHeaderView>
#include <QPushButton>
#include <QTableView>
#include <QVBoxLayout>

namespace app {

LogbookWindow::LogbookWindow(LogbookModel& logbook, QWidget* parent) : QDialog(parent) {
  setObjectName(QStringLiteral("logbookWindow"));
  setWindowTitle(tr("Logbook"));
  resize(820, 480);
  auto* table = new QTableView(this);
  table->setTabKeyNavigation(false);
  table->setObjectName(QStringLiteral("logbookTable"));
  table->setAccessibleName(tr("What happened, newest first"));
  table->setModel(&logbook);
  table->verticalHeader()->hide();
  table->verticalHeader()->setDefaultSectionSize(24);
  table->setShowGrid(false);
  table->setTabKeyNavigation(false);
  table->setSelectionBehavior(QAbstractItemView::SelectRows);
  table->horizontalHeader()->setStretchLastSection(true);
  table->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  for (const int column : {LogbookModel::ClockColumn, LogbookModel::PersonColumn})
    table->horizontalHeader()->setSectionResizeMode(column, QHeaderView::ResizeToContents);
  table->setWordWrap(true);
  table->verticalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
  auto* note = new QPushButton(tr("Add a note"), this);
  note->setObjectName(QStringLiteral("addNoteButton"));
  auto* layout = new QVBoxLayout(this);
  layout->addWidget(table);
  layout->addWidget(note, 0, Qt::AlignRight);
  connect(note, &QPushButton::clicked, this, &LogbookWindow::noteRequested);
}

}  // namespace app
