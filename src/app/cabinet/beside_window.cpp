#include "app/cabinet/beside_window.h"

#include <QComboBox>
#include <QFrame>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QSplitter>
#include <QTreeWidget>
#include <QVBoxLayout>

#include "app/cabinet/reference_dialog.h"
#include "app/findings/svg_picture.h"
#include "app/model/qt_text.h"
#include "app/shell/theme.h"
#include "app/shell/usable.h"
#include "core/estimate/wording.h"
#include "report/beside_page.h"

namespace app {
namespace {

constexpr int kFactRole = Qt::UserRole;
constexpr int kPictureWidth = 820;

QComboBox* choiceBox(QWidget* parent, const char* name, const QString& accessible) {
  auto* box = new QComboBox(parent);
  box->setObjectName(QLatin1String(name));
  box->setAccessibleName(accessible);
  box->setSizeAdjustPolicy(QComboBox::AdjustToContents);
  box->setMaximumWidth(260);
  return box;
}

QTreeWidget* tree(QWidget* parent, const char* name, const QString& accessible) {
  auto* made = new QTreeWidget(parent);
  made->setObjectName(QLatin1String(name));
  made->setAccessibleName(accessible);
  made->setRootIsDecorated(false);
  made->setUniformRowHeights(true);
  made->header()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  return made;
}

/// As it is, not as it is shown.
QString idOf(const std::string& text) { return QString::fromStdString(text); }

/// Shows these, by id and title, with one of them chosen.
void fillBox(QComboBox& box, const std::vector<std::pair<QString, QString>>& choices, const QString& chosen) {
  box.clear();
  for (const auto& [id, title] : choices) box.addItem(title, id);
  box.setCurrentIndex(std::max(0, box.findData(chosen)));
}

std::vector<std::pair<QString, QString>> asChoices(const QStringList& names) {
  std::vector<std::pair<QString, QString>> choices;
  for (const QString& name : names) choices.emplace_back(name, toQt(name.toStdString()));
  return choices;
}

}  // namespace

BesideWindow::BesideWindow(Prompts& prompts, QWidget* parent)
    : QDialog(parent),
      prompts_(prompts),
      claim_(new QLabel(this)),
      told_(new QLabel(this)),
      kind_(choiceBox(this, "besideKind", tr("what is asked"))),
      level_(choiceBox(this, "besideLevel", tr("level"))),
      rows_(choiceBox(this, "besideRows", tr("rows"))),
      columns_(choiceBox(this, "besideColumns", tr("columns"))),
      case_(choiceBox(this, "besideCase", tr("case"))),
      picture_(new SvgPicture(this)),
      picture_area_(new QScrollArea(this)),
      numbers_(tree(this, "besideNumbers", tr("what each study says"))),
      differs_(tree(this, "besideDiffers", tr("what differs between the benches"))),
      came_along_(new QLabel(this)),
      references_(new QLabel(this)),
      accept_(new QPushButton(tr("Accept what came along …"), this)),
      match_(new QPushButton(tr("Match two cases …"), this)),
      repeat_(new QPushButton(tr("Measure the first again"), this)),
      save_(new QPushButton(tr("Keep or save …"), this)) {
  setObjectName(QStringLiteral("besideWindow"));
  setWindowTitle(tr("Side by side"));
  setWindowFlag(Qt::WindowMaximizeButtonHint);
  resize(1240, 740);
  buildLayout();
  connect(&model_, &BesideModel::changed, this, &BesideWindow::refresh);
  connect(differs_, &QTreeWidget::itemChanged, this, &BesideWindow::meantChanged);
  connect(accept_, &QPushButton::clicked, this, &BesideWindow::acceptRest);
  connect(match_, &QPushButton::clicked, this, &BesideWindow::matchCases);
  connect(save_, &QPushButton::clicked, this, &BesideWindow::save);
  connect(repeat_, &QPushButton::clicked, this, [this] { Q_EMIT repeatRequested(model_.firstPath()); });
  refresh();
}

void BesideWindow::buildLayout() {
  claim_->setObjectName(QStringLiteral("besideClaim"));
  claim_->setFont(textFont(TextSize::Large));
  claim_->setWordWrap(true);
  claim_->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
  told_->setObjectName(QStringLiteral("besideTold"));
  told_->setWordWrap(true);
  told_->setAlignment(Qt::AlignTop);
  picture_->setObjectName(QStringLiteral("besidePicture"));
  picture_area_->setWidget(picture_);
  picture_area_->setFrameShape(QFrame::NoFrame);
  auto* middle = new QSplitter(Qt::Vertical, this);
  middle->addWidget(picture_area_);
  middle->addWidget(numbers_);
  middle->setStretchFactor(0, 3);
  middle->setStretchFactor(1, 2);
  auto* body = new QHBoxLayout;
  body->addWidget(middle, 1);
  body->addWidget(buildDrawer());
  auto* bottom = new QHBoxLayout;
  references_->setObjectName(QStringLiteral("besideReferences"));
  references_->setWordWrap(true);
  references_->setProperty("soft", true);
  auto* reference = new QPushButton(tr("Add a number from elsewhere …"), this);
  reference->setObjectName(QStringLiteral("addReferenceButton"));
  match_->setObjectName(QStringLiteral("matchCasesButton"));
  match_->setToolTip(tr("A case of one study stands for a case of another title"));
  repeat_->setObjectName(QStringLiteral("besideRepeatButton"));
  repeat_->setToolTip(tr("The question of the first study in one of its own: then against now"));
  save_->setObjectName(QStringLiteral("besideSaveButton"));
  save_->setToolTip(tr("As NAME.beside.json to be laid out again, or as .html, .pdf, .svg, .csv or .json"));
  bottom->addWidget(references_, 1);
  for (QPushButton* button : {reference, match_, repeat_, save_}) bottom->addWidget(button);
  connect(reference, &QPushButton::clicked, this, &BesideWindow::addReference);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(16, 12, 16, 12);
  column->addWidget(claim_);
  column->addWidget(buildAsked());
  column->addWidget(told_, 1);
  column->addLayout(body, 1);
  column->addLayout(bottom);
}

QWidget* BesideWindow::buildAsked() {
  auto* asked = new QWidget(this);
  auto* line = new QHBoxLayout(asked);
  line->setContentsMargins(0, 0, 0, 0);
  kind_->addItems({tr("The same question"), tr("A level between benches"), tr("A table")});
  line->addWidget(kind_);
  for (const auto& [box, words] :
       {std::pair{level_, tr("at")}, {rows_, tr("rows")}, {columns_, tr("columns")}, {case_, tr("of")}}) {
    auto* label = new QLabel(words, asked);
    label->setBuddy(box);
    labels_[box] = label;
    line->addWidget(label);
    line->addWidget(box);
  }
  line->addStretch(1);
  connect(kind_, &QComboBox::activated, this, [this](int at) {
    askAs([&](core::BesideOrder& order) {
      order.kind = static_cast<core::BesideKind>(at);
      if (order.level.empty() && !model_.levels().isEmpty()) order.level = model_.levels().last().toStdString();
      if (order.rows.empty()) order.rows = core::BesideOrder::kBench;
      if (order.columns.empty()) order.columns = core::BesideOrder::kLevel;
    });
  });
  const auto connectTo = [this](QComboBox* box, std::string core::BesideOrder::*field) {
    connect(box, &QComboBox::activated, this, [this, box, field] {
      askAs([&](core::BesideOrder& order) { order.*field = box->currentData().toString().toStdString(); });
    });
  };
  connectTo(level_, &core::BesideOrder::level);
  connectTo(rows_, &core::BesideOrder::rows);
  connectTo(columns_, &core::BesideOrder::columns);
  connectTo(case_, &core::BesideOrder::title);
  return asked;
}

QWidget* BesideWindow::buildDrawer() {
  auto* drawer = new QWidget(this);
  drawer->setFixedWidth(310);
  auto* title = new QLabel(tr("What differs between the benches"), this);
  title->setFont(textFont(TextSize::Normal, true));
  came_along_->setObjectName(QStringLiteral("cameAlongLabel"));
  came_along_->setWordWrap(true);
  accept_->setObjectName(QStringLiteral("acceptAlongButton"));
  auto* column = new QVBoxLayout(drawer);
  column->setContentsMargins(8, 0, 0, 0);
  column->addWidget(title);
  column->addWidget(came_along_);
  column->addWidget(differs_, 1);
  column->addWidget(accept_);
  return drawer;
}

void BesideWindow::askAs(const std::function<void(core::BesideOrder&)>& change) {
  core::BesideOrder order = model_.order();
  change(order);
  model_.ask(order);
}

void BesideWindow::refresh() {
  is_filling_ = true;
  const auto& beside = model_.beside();
  claim_->setText(beside               ? boundPercents(toQt(beside->claim))
                  : model_.isReading() ? tr("Reading the studies …")
                                       : tr("Nothing can be said of these studies."));
  told_->setText(model_.told());
  told_->setVisible(!model_.told().isEmpty());
  told_->setSizePolicy(QSizePolicy::Preferred, beside ? QSizePolicy::Maximum : QSizePolicy::Expanding);
  const QString not_yet = beside ? QString() : tr("Nothing is said yet");
  for (QWidget* one : std::initializer_list<QWidget*>{accept_, match_, save_}) setUsable(*one, not_yet);
  setUsable(*repeat_, model_.firstPath().isEmpty() ? tr("Nothing is said yet") : QString());
  fillChoices();
  numbers_->clear();
  differs_->clear();
  picture_->setMaker({});
  picture_area_->setVisible(beside.has_value());
  numbers_->setVisible(beside.has_value());
  if (beside) {
    const std::string svg =
        report::besideSvg({*beside, model_.studies(), model_.order(), {}, {}}, currentPalette(), kPictureWidth);
    picture_->setFixedSize(pictureOf(svg).size());
    picture_->setMaker([svg](const QSize&) { return svg; });
    if (beside->table)
      fillTable();
    else
      fillRows();
    fillDiffers();
  }
  is_filling_ = false;
}

void BesideWindow::fillChoices() {
  const core::BesideOrder& order = model_.order();
  const bool is_table = order.kind == core::BesideKind::Table;
  kind_->setCurrentIndex(static_cast<int>(order.kind));
  const QStringList levels = model_.levels();  // of a table the last is shown where none is named
  fillBox(*level_, asChoices(levels), order.level.empty() ? levels.value(levels.size() - 1) : idOf(order.level));
  const auto axes = model_.axes();
  fillBox(*rows_, axes, idOf(order.rows));
  auto columns = axes;
  columns.insert(columns.begin(), {QLatin1String(core::BesideOrder::kLevel), tr("level")});
  fillBox(*columns_, columns, idOf(order.columns));
  fillBox(*case_, asChoices(model_.cases()), idOf(order.title));
  const bool names_level =
      order.kind == core::BesideKind::LevelsBetweenBenches || (is_table && order.columns != core::BesideOrder::kLevel);
  for (const auto& [box, label] : labels_) {
    box->setVisible(box == level_ ? names_level : is_table);
    label->setVisible(box == level_ ? names_level : is_table);
  }
  QStringList said;
  const std::vector<core::RowAside> none;
  for (const core::Reference& one : order.references)
    said << toQt(core::referenceText(one, model_.beside() ? model_.beside()->rows : none));
  references_->setText(said.join(QLatin1Char('\n')));
}

void BesideWindow::fillRows() {
  const auto studies = model_.studies();
  QStringList head{tr("case")};
  for (const core::StudyAside& one : studies) head << toQt(one.name);
  head << tr("%1 over %2").arg(toQt(studies.back().name), toQt(studies.front().name)) << tr("verdict");
  numbers_->setColumnCount(static_cast<int>(head.size()));
  numbers_->setHeaderLabels(head);
  for (const core::RowAside& row : model_.beside()->rows) {
    auto* item = new QTreeWidgetItem(numbers_);
    item->setText(0, toQt(core::rowTitle(row)));
    for (const core::EffectAside& effect : row.effects)
      item->setText(static_cast<int>(effect.study) + 1,
                    effect.improvement ? toQt(core::changeText(*effect.improvement)) : tr("no result"));
    const auto last = static_cast<int>(head.size());
    item->setText(last - 2, row.difference ? toQt(core::changeText(row.difference->percent)) : QString());
    item->setText(last - 1, toQt(core::verdictAside(row, studies)));
    item->setToolTip(last - 1, item->text(last - 1));
  }
  for (int column = 0; column < numbers_->columnCount() - 1; ++column) numbers_->resizeColumnToContents(column);
}

void BesideWindow::fillTable() {
  const core::TableAside& table = *model_.beside()->table;
  QStringList head{tr("%1, %2").arg(toQt(table.title), toQt(table.unit))};
  for (const std::string& column : table.columns) head << toQt(column);
  numbers_->setColumnCount(static_cast<int>(head.size()));
  numbers_->setHeaderLabels(head);
  for (const std::string& row : table.rows) {
    auto* item = new QTreeWidgetItem(numbers_);
    item->setText(0, toQt(row));
    for (const core::CellAside& cell : table.cells) {
      if (cell.row != row) continue;
      const auto place = std::find(table.columns.begin(), table.columns.end(), cell.column) - table.columns.begin() + 1;
      const int column = static_cast<int>(place);
      QString text = cell.value ? toQt(core::valueText(*cell.value, table.unit)) : tr("no result");
      if (!cell.refused.empty())
        text = tr("%1, refused: %2").arg(text, toQt(cell.refused));
      else if (cell.relative)
        text = tr("%1, %2").arg(text, toQt(core::changeText(*cell.relative)));
      item->setText(column, text);
      item->setToolTip(column, text);
    }
  }
  for (int column = 0; column < numbers_->columnCount() - 1; ++column) numbers_->resizeColumnToContents(column);
  if (model_.beside()->effects) fillEffects(*model_.beside()->effects);
}

// Each over the whole width: they are sentences.
void BesideWindow::fillEffects(const core::TableEffects& effects) {
  for (const std::string& sentence : core::tableSentences(effects)) {
    auto* item = new QTreeWidgetItem(numbers_, {toQt(sentence)});
    item->setFirstColumnSpanned(true);
    item->setToolTip(0, toQt(sentence));
  }
}

void BesideWindow::fillDiffers() {
  differs_->setColumnCount(2);
  differs_->setHeaderLabels({tr("meant"), tr("in each study")});
  const auto& differs = model_.beside()->differs;
  int along = 0;
  for (const core::WhyAside why :
       {core::WhyAside::Meant, core::WhyAside::CameAlong, core::WhyAside::Accepted, core::WhyAside::NotTold})
    for (const core::DiffersAside& one : differs) {
      if (one.why != why) continue;
      along += why == core::WhyAside::CameAlong ? 1 : 0;
      auto* item = new QTreeWidgetItem(differs_);
      item->setText(0, toQt(one.fact.title));
      item->setText(1, toQt(core::valuesText(one.fact)));
      if (!one.reason.empty()) item->setText(1, tr("%1; accepted: %2").arg(item->text(1), toQt(one.reason)));
      item->setData(0, kFactRole, idOf(one.fact.fact));
      item->setCheckState(0, why == core::WhyAside::Meant ? Qt::Checked : Qt::Unchecked);
      for (const int column : {0, 1}) item->setToolTip(column, tr("%1: %2").arg(item->text(0), item->text(1)));
    }
  differs_->resizeColumnToContents(0);
  if (differs_->columnWidth(0) > 160) differs_->setColumnWidth(0, 160);
  came_along_->setText(model_.beside()->is_bench_unknown ? tr("Not known: a study has no capture of its bench.")
                       : differs.empty()                 ? tr("Nothing that could be read.")
                       : along == 0                      ? tr("Nothing came along that is not accepted.")
                                    : tr("Tick what is meant to differ. %1 came along.").arg(along));
  setUsable(*accept_, along == 0 ? tr("Nothing came along that is not accepted") : QString());
}

void BesideWindow::meantChanged(QTreeWidgetItem* item) {
  if (is_filling_) return;
  const std::string fact = item->data(0, kFactRole).toString().toStdString();
  const bool is_meant = item->checkState(0) == Qt::Checked;
  // Not while the list is still at its item: it is filled anew.
  QMetaObject::invokeMethod(
      this,
      [this, fact, is_meant] {
        askAs([&](core::BesideOrder& order) {
          std::erase(order.meant, fact);
          if (is_meant) order.meant.push_back(fact);
        });
      },
      Qt::QueuedConnection);
}

void BesideWindow::acceptRest() {
  if (!model_.beside()) return;
  const auto reason = prompts_.reason(this, tr("Take what came along as no matter for this comparison"));
  if (!reason) return;
  const core::Beside beside = *model_.beside();
  askAs([&](core::BesideOrder& order) {
    for (const core::DiffersAside& one : beside.differs)
      if (one.why == core::WhyAside::CameAlong) order.accepted[one.fact.fact] = reason->toStdString();
    // A held condition of a table goes by a name of its own.
    for (const std::string& condition : beside.refusedFor()) order.accepted[condition] = reason->toStdString();
  });
}

void BesideWindow::addReference() {
  auto* dialog = new ReferenceDialog(this);
  dialog->setAttribute(Qt::WA_DeleteOnClose);
  connect(dialog, &QDialog::accepted, this, [this, dialog] {
    askAs([&](core::BesideOrder& order) { order.references.push_back(dialog->reference()); });
  });
  dialog->open();
}

void BesideWindow::matchCases() {
  const auto studies = model_.studies();
  if (studies.empty()) return;
  const auto titles = [](const core::StudyAside& one) {
    QStringList all;
    for (const core::Case& a_case : one.study->cases) all << idOf(a_case.title());
    return all;
  };
  if (const auto match = prompts_.match(this, titles(studies.back()), titles(studies.front())))
    askAs([&](core::BesideOrder& order) { order.matched[match->first.toStdString()] = match->second.toStdString(); });
}

void BesideWindow::save() {
  if (const auto path = prompts_.savePath(this, QStringLiteral("side by side.beside.json")))
    if (auto written = model_.save(*path); !written) prompts_.tell(this, toQt(written.error().sentence()));
}

}  // namespace app
