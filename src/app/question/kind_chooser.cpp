#include "app/question/kind_chooser.h"

#include <QHeaderView>

#include "app/model/qt_text.h"
#include "app/model/study_model.h"
#include "app/shell/theme.h"
#include "core/machine/kind_groups.h"
#include "core/study/terms.h"

namespace app {
namespace {

constexpr int kWhat = 0;
constexpr int kNow = 1;
constexpr int kWho = 2;
constexpr int kId = Qt::UserRole;

}  // namespace

QString whoFlips(const core::VariableKind& kind, bool is_switched) {
  if (is_switched) return KindChooser::tr("the program");
  if (kind.is_whole) return KindChooser::tr("a swap of parts");
  if (kind.needs_reboot || kind.restarts_by_hand) return KindChooser::tr("a restart");
  return KindChooser::tr("a person");
}

KindChooser::KindChooser(QWidget* parent) : QTreeWidget(parent) {
  setObjectName(QStringLiteral("kindList"));
  setAccessibleName(tr("What is changed"));
  setColumnCount(3);
  setHeaderLabels({tr("what"), tr("on this bench"), tr("flipped by")});
  headerItem()->setToolTip(2, toQt(core::termsText("flip")));
  setRootIsDecorated(false);
  setItemsExpandable(false);
  setIndentation(12);
  setMinimumHeight(150);
  header()->setStretchLastSection(false);
  header()->setSectionResizeMode(kWhat, QHeaderView::ResizeToContents);
  header()->setSectionResizeMode(kNow, QHeaderView::Stretch);
  header()->setSectionResizeMode(kWho, QHeaderView::ResizeToContents);
  for (const core::KindGroup& group : core::kindGroups()) {
    auto* top = new QTreeWidgetItem(this, {toQt(group.title)});
    top->setFlags(Qt::ItemIsEnabled);
    top->setFirstColumnSpanned(true);
    top->setFont(kWhat, textFont(TextSize::Normal, true));
    for (const std::string_view id : group.kinds) {
      const core::VariableKind& kind = *core::findVariableKind(id);
      auto* row = new QTreeWidgetItem(top, {toQt(kind.title), QString(), whoFlips(kind, false)});
      row->setData(kWhat, kId, toQt(id));
    }
  }
  auto* undeclared = new QTreeWidgetItem(topLevelItem(topLevelItemCount() - 1),
                                         {tr("not declared"), tr("nothing proves that it moved"), QString()});
  undeclared->setData(kWhat, kId, QString());
  expandAll();
  connect(this, &QTreeWidget::currentItemChanged, this, [this](const QTreeWidgetItem* item) {
    if (!is_loading_ && item && item->parent()) Q_EMIT chosen(item->data(kWhat, kId).toString());
  });
}

void KindChooser::choose(const std::string& id) {
  is_loading_ = true;
  for (QTreeWidgetItemIterator it(this); *it; ++it)
    if ((*it)->parent() && (*it)->data(kWhat, kId).toString() == toQt(id)) {
      setCurrentItem(*it);
      scrollToItem(*it);
    }
  is_loading_ = false;
}

void KindChooser::clearChoice() {
  is_loading_ = true;
  setCurrentItem(nullptr);
  scrollToTop();
  is_loading_ = false;
}

std::string KindChooser::kind() const {
  const QTreeWidgetItem* item = currentItem();
  return item && item->parent() ? item->data(kWhat, kId).toString().toStdString() : std::string();
}

void KindChooser::showBench(const bench::BenchNow* now) {
  for (QTreeWidgetItemIterator it(this); *it; ++it) {
    const core::VariableKind* kind = core::findVariableKind((*it)->data(kWhat, kId).toString().toStdString());
    if (!(*it)->parent() || !kind) continue;
    const bench::Offer offer = now ? now->offerOf(kind->id) : bench::Offer();
    (*it)->setText(kNow, toQt(offer.now));
    (*it)->setToolTip(kNow, toQt(offer.now));
    (*it)->setText(kWho, whoFlips(*kind, offer.is_switched));
  }
}

}  // namespace app
