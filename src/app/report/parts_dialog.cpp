#include "app/report/parts_dialog.h"

#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace app {

PartsDialog::PartsDialog(const report::PageOrder& order, QWidget* parent)
    : QDialog(parent), parts_(new QListWidget(this)), words_(new QPlainTextEdit(this)), kept_as_(new QLineEdit(this)) {
  setObjectName(QStringLiteral("partsDialog"));
  setWindowTitle(tr("Parts of the report"));
  auto* note = new QLabel(tr("The claim stands above all parts. Stops and cautions that nobody accepted stand in every "
                             "report, whatever is left out."),
                          this);
  note->setWordWrap(true);
  parts_->setObjectName(QStringLiteral("partsList"));
  parts_->setAccessibleName(tr("parts in their order"));
  parts_->setDragDropMode(QAbstractItemView::InternalMove);
  fill(order);
  words_->setObjectName(QStringLiteral("ownWordsEdit"));
  words_->setAccessibleName(tr("own words"));
  words_->setPlaceholderText(
      tr("# A heading\nA paragraph.\n- an item of a list\n---\nWhat stands at the next place of own words."));
  words_->setPlainText(QString::fromStdString(order.text));
  kept_as_->setObjectName(QStringLiteral("keepTemplateEdit"));
  kept_as_->setPlaceholderText(tr("a name, to be chosen again"));
  auto* up = new QPushButton(tr("Up"), this);
  auto* down = new QPushButton(tr("Down"), this);
  up->setObjectName(QStringLiteral("partUpButton"));
  down->setObjectName(QStringLiteral("partDownButton"));
  connect(up, &QPushButton::clicked, this, [this] { move(-1); });
  connect(down, &QPushButton::clicked, this, [this] { move(1); });
  auto* another = new QPushButton(tr("Another place for own words"), this);
  another->setObjectName(QStringLiteral("anotherPlaceButton"));
  connect(another, &QPushButton::clicked, this, [this] {
    put(report::kPageParts.front(), true, parts_->currentRow() + 1);  // own words are the only part that may come twice
    parts_->setCurrentRow(parts_->currentRow() + 1);
  });
  auto* row = new QHBoxLayout;
  row->addWidget(up);
  row->addWidget(down);
  row->addWidget(another);
  row->addStretch(1);
  auto* buttons = new QDialogButtonBox(this);
  buttons->addButton(tr("Make the report so"), QDialogButtonBox::AcceptRole)
      ->setObjectName(QStringLiteral("usePartsButton"));
  buttons->addButton(tr("Cancel"), QDialogButtonBox::RejectRole);
  connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  auto* form = new QFormLayout;
  form->addRow(tr("keep as"), kept_as_);
  auto* column = new QVBoxLayout(this);
  column->setSpacing(8);
  column->addWidget(note);
  column->addWidget(parts_, 2);
  column->addLayout(row);
  column->addWidget(new QLabel(tr("Own words"), this));
  column->addWidget(words_, 1);
  column->addLayout(form);
  column->addWidget(buttons);
  resize(520, 640);
}

void PartsDialog::put(const report::PagePartWords& words, bool is_in, int row) {
  auto* item = new QListWidgetItem(tr(words.title));
  item->setData(Qt::UserRole, QString::fromLatin1(words.name));
  item->setCheckState(is_in ? Qt::Checked : Qt::Unchecked);
  parts_->insertItem(row, item);
}

// Those of the order first, as it has them; behind them what is left out.
void PartsDialog::fill(const report::PageOrder& order) {
  for (const report::PagePart part : order.parts)
    for (const report::PagePartWords& words : report::kPageParts)
      if (words.part == part) put(words, true, parts_->count());
  for (const report::PagePartWords& words : report::kPageParts)
    if (!order.has(words.part)) put(words, false, parts_->count());
  parts_->setCurrentRow(0);
}

void PartsDialog::move(int by) {
  const int from = parts_->currentRow();
  const int to = from + by;
  if (from < 0 || to < 0 || to >= parts_->count()) return;
  parts_->insertItem(to, parts_->takeItem(from));
  parts_->setCurrentRow(to);
}

report::PageOrder PartsDialog::order() const {
  report::PageOrder order;
  for (int i = 0; i < parts_->count(); ++i) {
    const QListWidgetItem& item = *parts_->item(i);
    for (const report::PagePartWords& words : report::kPageParts)
      if (item.checkState() == Qt::Checked && item.data(Qt::UserRole).toString() == QLatin1String(words.name))
        order.parts.push_back(words.part);
  }
  order.text = words_->toPlainText().toStdString();
  return order;
}

QString PartsDialog::keptAs() const { return kept_as_->text().trimmed(); }

}  // namespace app
