#include "app/cabinet/cabinet_view.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QListView>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QScrollBar>
#include <QTextDocument>
#include <QTimer>
#include <QVBoxLayout>

#include "app/model/qt_text.h"
#include "app/shell/theme.h"
#include "app/shell/usable.h"

namespace app {
namespace {

constexpr int kStudyHeight = 66;
constexpr int kHeadingHeight = 36;
constexpr int kTickWidth = 40;
constexpr int kSentenceHeight = 42;  // two lines

}  // namespace

QRect CabinetDelegate::tickOf(const QRect& row) { return {row.left() + 12, row.top() + 12, 16, 16}; }

QSize CabinetDelegate::sizeHint(const QStyleOptionViewItem&, const QModelIndex& index) const {
  return {600, model_.row(index.row()).path.isEmpty() ? kHeadingHeight : kStudyHeight};
}

void CabinetDelegate::paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const {
  const CabinetRow& row = model_.row(index.row());
  painter->save();
  if (option.state & QStyle::State_Selected) {
    painter->setPen(QPen(theme().focus, 1.5));
    painter->setBrush(theme().sheet);
    painter->drawRoundedRect(option.rect.adjusted(2, 1, -3, -2), 3, 3);
  }
  if (!row.path.isEmpty()) {
    paintStudy(*painter, row, option.rect);
    painter->restore();
    return;
  }
  const QRect place = option.rect.adjusted(8, 8, -12, -4);
  painter->setFont(textFont(TextSize::Normal, true));
  painter->setPen(theme().ink);
  painter->drawText(place, Qt::AlignLeft | Qt::AlignVCenter, row.text);
  painter->setFont(textFont(TextSize::Small));
  painter->setPen(theme().soft_ink);
  painter->drawText(place, Qt::AlignRight | Qt::AlignVCenter, row.soft);
  painter->setPen(QPen(theme().line, 1));
  painter->drawLine(option.rect.bottomLeft(), option.rect.bottomRight());
  painter->restore();
}

void CabinetDelegate::paintStudy(QPainter& painter, const CabinetRow& row, const QRect& place) const {
  if (row.is_readable) {
    const QRect tick = tickOf(place);
    const bool is_chosen = model_.isChosen(row.path);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(is_chosen ? theme().changed : theme().soft_ink, 1.4));
    painter.setBrush(is_chosen ? theme().changed : theme().sheet);
    painter.drawRoundedRect(tick, 2, 2);
    if (is_chosen) {
      painter.setPen(QPen(theme().on_changed, 2));
      painter.drawPolyline(
          QPolygon({tick.topLeft() + QPoint(4, 8), tick.topLeft() + QPoint(7, 11), tick.topLeft() + QPoint(12, 5)}));
    }
  }
  const QRect words(place.left() + kTickWidth, place.top() + 5, place.width() - kTickWidth - 16, kSentenceHeight);
  QString html = boundPercents(row.text).toHtmlEscaped();
  if (const QString answer = boundPercents(row.answer).toHtmlEscaped(); !answer.isEmpty())
    html.replace(answer, QStringLiteral("<b>%1</b>").arg(answer));
  QTextDocument document;
  document.setDocumentMargin(0);
  document.setDefaultFont(textFont(TextSize::Normal));
  document.setDefaultStyleSheet(
      QStringLiteral("body { color: %1 }").arg((row.is_readable ? theme().ink : theme().soft_ink).name()));
  document.setHtml(QStringLiteral("<body>%1</body>").arg(html));
  document.setTextWidth(words.width());
  painter.save();
  painter.translate(words.topLeft());
  document.drawContents(&painter, QRectF(0, 0, words.width(), kSentenceHeight));
  painter.restore();
  painter.setFont(textFont(TextSize::Small));
  painter.setPen(theme().soft_ink);
  const QRect soft(words.left(), place.bottom() - 20, words.width(), 16);
  painter.drawText(soft, Qt::AlignLeft | Qt::AlignVCenter,
                   painter.fontMetrics().elidedText(row.soft, Qt::ElideRight, soft.width()));
}

CabinetView::CabinetView(CabinetModel& model, QWidget* parent)
    : QWidget(parent),
      model_(model),
      find_(new QLineEdit(this)),
      grouping_(new QComboBox(this)),
      sorting_(new QComboBox(this)),
      status_(new QLabel(this)),
      list_(new QListView(this)),
      empty_(new QLabel(this)),
      folders_(new QMenu(this)),
      open_(new QPushButton(tr("Open"), this)),
      repeat_(new QPushButton(tr("Ask it again"), this)),
      beside_(new QPushButton(this)) {
  setUpParts();
  layOut();
  connectParts();
  fillFolders();
  refresh();
}

void CabinetView::setUpParts() {
  find_->setObjectName(QStringLiteral("cabinetFind"));
  find_->setPlaceholderText(tr("find: words, a bench, a part, a driver, a person, 2026-11"));
  find_->setAccessibleName(tr("find studies"));
  find_->setClearButtonEnabled(true);
  find_->installEventFilter(this);
  grouping_->setObjectName(QStringLiteral("cabinetGrouping"));
  grouping_->setAccessibleName(tr("how studies are grouped"));
  grouping_->addItems({tr("by bench"), tr("by variable")});
  sorting_->setObjectName(QStringLiteral("cabinetSorting"));
  sorting_->setAccessibleName(tr("how studies are sorted"));
  sorting_->addItems({tr("latest first"), tr("oldest first"), tr("most doubts first")});
  status_->setObjectName(QStringLiteral("cabinetStatus"));
  status_->setProperty("soft", true);
  list_->setObjectName(QStringLiteral("cabinetList"));
  list_->setAccessibleName(tr("studies"));
  list_->setModel(&model_);
  list_->setItemDelegate(new CabinetDelegate(model_, list_));
  list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
  list_->setSelectionMode(QAbstractItemView::SingleSelection);
  list_->installEventFilter(this);
  list_->viewport()->installEventFilter(this);
  empty_->setObjectName(QStringLiteral("cabinetEmpty"));
  empty_->setWordWrap(true);
  empty_->setAlignment(Qt::AlignTop);
}

void CabinetView::layOut() {
  auto* folders = new QPushButton(tr("Folders"), this);
  folders->setObjectName(QStringLiteral("cabinetFoldersButton"));
  folders->setMenu(folders_);
  open_->setObjectName(QStringLiteral("cabinetOpenButton"));
  repeat_->setObjectName(QStringLiteral("cabinetRepeatButton"));
  repeat_->setToolTip(tr("The same question in a study of its own, with passes of its own"));
  beside_->setObjectName(QStringLiteral("cabinetBesideButton"));

  auto* top = new QHBoxLayout;
  top->addWidget(find_, 2);
  top->addWidget(grouping_);
  top->addWidget(sorting_);
  top->addWidget(folders);
  top->addStretch(1);
  top->addWidget(status_);
  auto* bottom = new QHBoxLayout;
  bottom->addWidget(open_);
  bottom->addWidget(repeat_);
  bottom->addStretch(1);
  bottom->addWidget(beside_);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->addLayout(top);
  column->addWidget(empty_, 1);
  column->addWidget(list_, 1);
  column->addLayout(bottom);
}

void CabinetView::connectParts() {
  connect(find_, &QLineEdit::textChanged, &model_, &CabinetModel::setWords);
  connect(grouping_, &QComboBox::activated, this,
          [this](int at) { model_.setGrouping(static_cast<CabinetModel::Grouping>(at)); });
  connect(sorting_, &QComboBox::activated, this,
          [this](int at) { model_.setSorting(static_cast<CabinetModel::Sorting>(at)); });
  connect(list_, &QListView::activated, this, &CabinetView::activate);
  connect(list_->selectionModel(), &QItemSelectionModel::currentChanged, this, &CabinetView::refresh);
  connect(&model_, &CabinetModel::statusChanged, this, &CabinetView::refresh);
  connect(&model_, &CabinetModel::foldersChanged, this, [this] {
    if (isVisible()) model_.refresh();
  });
  // What is found anew while somebody reads leaves them where they are.
  connect(&model_, &QAbstractItemModel::modelAboutToBeReset, this, [this] {
    before_ = currentPath();
    scrolled_ = list_->verticalScrollBar()->value();
  });
  connect(&model_, &QAbstractItemModel::modelReset, this, [this] {
    for (int at = 0; at < model_.rowCount() && !before_.isEmpty(); ++at)
      if (model_.row(at).path == before_) list_->setCurrentIndex(model_.index(at));
    list_->verticalScrollBar()->setValue(scrolled_);
  });
  connect(folders_, &QMenu::aboutToShow, this, &CabinetView::fillFolders);
  connect(open_, &QPushButton::clicked, this, [this] { Q_EMIT openRequested(currentPath()); });
  connect(repeat_, &QPushButton::clicked, this, [this] { Q_EMIT repeatRequested(currentPath()); });
  connect(beside_, &QPushButton::clicked, this, [this] { Q_EMIT besideRequested(model_.chosen()); });
}

// Later, since the window that is about to open a study stands on the first page for a moment.
void CabinetView::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  QTimer::singleShot(0, this, [this] {
    if (isVisible()) model_.refresh();
  });
}

void CabinetView::focusSearch() { find_->setFocus(); }

QString CabinetView::currentPath() const {
  const QModelIndex at = list_->currentIndex();
  return at.isValid() ? model_.row(at.row()).path : QString();
}

void CabinetView::activate(const QModelIndex& index) {
  const CabinetRow& row = model_.row(index.row());
  if (!row.path.isEmpty()) return Q_EMIT openRequested(row.path);
  if (!row.bench.isEmpty()) Q_EMIT benchRequested(row.bench);
}

void CabinetView::refresh() {
  status_->setText(model_.status());
  const bool is_empty = model_.rowCount() == 0;
  list_->setVisible(!is_empty);
  empty_->setVisible(is_empty);
  empty_->setText(find_->text().trimmed().isEmpty()
                      ? tr("No study is here yet. Those that you make are; for others, name the folder in which they "
                           "lie: Folders > Add a folder.")
                      : tr("No study holds every one of these words. Each is looked for as a word's beginning."));
  const QString path = currentPath();
  for (QPushButton* button : {open_, repeat_})
    setUsable(*button, path.isEmpty() ? tr("Choose a study first") : QString());
  const qsizetype count = model_.chosen().size();
  beside_->setText(count < 2 ? tr("Lay side by side") : tr("Lay %1 side by side").arg(count));
  setUsable(*beside_, count < 2 ? tr("Tick two studies or more (Space)") : QString());
}

void CabinetView::fillFolders() {
  folders_->clear();
  folders_->addAction(tr("Add a folder …"), this, &CabinetView::folderRequested)
      ->setObjectName(QStringLiteral("addCabinetFolderAction"));
  folders_->addAction(tr("Look through them now"), &model_, &CabinetModel::refresh);
  folders_->addSeparator();
  for (const QString& folder : model_.folders())
    folders_->addAction(tr("Leave out %1").arg(folder), this, [this, folder] { model_.removeFolder(folder); });
}

// The list is moved through while something is typed; Space ticks, Return opens, Ctrl+Return lays side by side.
bool CabinetView::eventFilter(QObject* watched, QEvent* event) {
  if (watched == list_->viewport() && event->type() == QEvent::MouseButtonRelease) {
    const QPoint at = static_cast<QMouseEvent*>(event)->pos();
    const QModelIndex index = list_->indexAt(at);
    if (index.isValid() && at.x() < kTickWidth) model_.toggle(index.row());
    return false;
  }
  if (event->type() != QEvent::KeyPress) return false;
  auto* key = static_cast<QKeyEvent*>(event);
  const bool is_return = key->key() == Qt::Key_Return || key->key() == Qt::Key_Enter;
  if (is_return && key->modifiers() == Qt::ControlModifier) {
    if (beside_->isEnabled()) beside_->click();
    return true;
  }
  if (is_return) {
    if (list_->currentIndex().isValid()) activate(list_->currentIndex());
    return true;
  }
  if (watched == list_ && key->key() == Qt::Key_Space) {
    if (list_->currentIndex().isValid()) model_.toggle(list_->currentIndex().row());
    return true;
  }
  if (watched == find_ && (key->key() == Qt::Key_Down || key->key() == Qt::Key_Up)) {
    list_->setFocus();
    if (currentPath().isEmpty() && model_.rowCount() > 1) list_->setCurrentIndex(model_.index(1));  // below its heading
    return true;
  }
  return false;
}

}  // namespace app
