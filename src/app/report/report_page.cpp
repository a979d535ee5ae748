#include "app/report/report_page.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QTextBrowser>
#include <QVBoxLayout>
#include <filesystem>
#include <map>

#include "app/report/parts_dialog.h"
#include "app/report/printed_report.h"
#include "app/shell/theme.h"
#include "app/shell/usable.h"
#include "report/report.h"
#include "session/bundle/bundle.h"
#include "session/pages/report_templates.h"
#include "session/pages/written_report.h"

namespace app {
namespace {

constexpr int kScreenWidth = 900;

}  // namespace

ReportPage::ReportPage(StudyModel& study, QWidget* parent)
    : QWidget(parent),
      study_(study),
      why_not_(new QLabel(this)),
      view_(new QTextBrowser(this)),
      template_(new QComboBox(this)),
      more_(new QPushButton(tr("More"), this)),
      names_people_(new QCheckBox(tr("Name the people"), this)),
      has_pictures_(new QCheckBox(tr("Kept pictures"), this)),
      html_(new QPushButton(tr("Save as a page …"), this)),
      pdf_(new QPushButton(tr("Save as PDF …"), this)),
      print_(new QPushButton(tr("Print …"), this)),
      seal_(new QPushButton(tr("Seal …"), this)),
      sealed_(new QLabel(this)) {
  setObjectName(QStringLiteral("reportPage"));
  auto* title = new QLabel(tr("What you can send"), this);
  title->setFont(textFont(TextSize::Large, true));
  dress();
  layOut(title);
  connectParts();
}

void ReportPage::dress() {
  why_not_->setObjectName(QStringLiteral("reportWhyNot"));
  why_not_->setFont(textFont(TextSize::Large));
  why_not_->setWordWrap(true);
  why_not_->setAlignment(Qt::AlignTop);
  view_->setObjectName(QStringLiteral("reportView"));
  view_->setAccessibleName(tr("the report"));
  view_->setOpenLinks(false);
  view_->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOn);  // else a long page is laid out twice
  pictures_.drawIn(*view_->document());
  names_people_->setObjectName(QStringLiteral("namesPeopleBox"));
  names_people_->setToolTip(tr("Who expected or explained something stands in the report by name, not as Person 1"));
  has_pictures_->setObjectName(QStringLiteral("hasPicturesBox"));
  has_pictures_->setToolTip(
      tr("How the bench was set up, and what somebody noticed: the pictures that the study keeps"));
  html_->setObjectName(QStringLiteral("saveHtmlButton"));
  pdf_->setObjectName(QStringLiteral("savePdfButton"));
  print_->setObjectName(QStringLiteral("printButton"));
  seal_->setObjectName(QStringLiteral("sealButton"));
  seal_->setToolTip(tr(
      "The study with all that follows from it in one zip, without names, places and serial numbers: whoever gets it "
      "can have every number worked out again"));
  sealed_->setObjectName(QStringLiteral("sealedLabel"));
  sealed_->setWordWrap(true);
  sealed_->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
  sealed_->hide();
  template_->setObjectName(QStringLiteral("reportTemplateBox"));
  template_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  template_->setMinimumContentsLength(8);
  template_->setMaximumWidth(130);
  template_->setAccessibleName(tr("how much the report says"));
  more_->setObjectName(QStringLiteral("reportMoreButton"));
  auto* menu = new QMenu(more_);
  const auto entry = [&](const QString& text, const char* name, const std::function<void()>& act) {
    menu->addAction(text, this, act)->setObjectName(QString::fromLatin1(name));
  };
  using Form = session::ReportWish::Form;
  entry(tr("Parts and own words …"), "reportPartsAction", [this] { editParts(); });
  entry(tr("Pictures for a talk …"), "reportTalkAction", [this] { ask(Form::Talk, QStringLiteral("talk.png")); });
  entry(tr("Picture for a phone …"), "reportPhoneAction", [this] { ask(Form::Phone, QStringLiteral("phone.png")); });
  entry(tr("Caption as text …"), "reportCaptionAction", [this] { ask(Form::Page, QStringLiteral("caption.txt")); });
  more_->setMenu(menu);
  fillTemplates(QStringLiteral("full"));
}

void ReportPage::connectParts() {
  connect(&study_, &StudyModel::changed, this, &ReportPage::refresh);
  connect(&study_, &StudyModel::studyOpened, sealed_, &QWidget::hide);
  for (QCheckBox* choice : {names_people_, has_pictures_})
    connect(choice, &QCheckBox::toggled, this, &ReportPage::refresh);
  connect(print_, &QPushButton::clicked, this, &ReportPage::printRequested);
  for (const auto& [button, name] :
       {std::pair(seal_, "bundle.zip"), std::pair(html_, "report.html"), std::pair(pdf_, "report.pdf")})
    connect(button, &QPushButton::clicked, this,
            [this, name = QString::fromLatin1(name)] { ask(session::ReportWish::Form::Page, name); });
  connect(template_, &QComboBox::activated, this, [this] {
    const auto order =
        session::ReportTemplates(study_.files().templates).find(template_->currentData().toString().toStdString());
    if (!order) return study_.tell(order.error());
    order_ = *order;
    refresh();
  });
}

void ReportPage::fillTemplates(const QString& chosen) {
  const std::map<std::string, QString> titles{
      {"full", tr("in full")}, {"short", tr("short")}, {"hurry", tr("for a reader in a hurry")}};
  template_->clear();
  const auto names = session::ReportTemplates(study_.files().templates).names();
  for (const std::string& name : names ? *names : std::vector<std::string>{"full", "short", "hurry"}) {
    const auto title = titles.find(name);
    template_->addItem(title == titles.end() ? toQt(name) : title->second, QString::fromStdString(name));
  }
  template_->setCurrentIndex(std::max(0, template_->findData(chosen)));
}

void ReportPage::editParts() {
  auto* dialog = new PartsDialog(order_, this);
  dialog->setAttribute(Qt::WA_DeleteOnClose);
  connect(dialog, &QDialog::accepted, this, [this, dialog] { takeParts(*dialog); });
  dialog->open();
}

void ReportPage::takeParts(const PartsDialog& dialog) {
  order_ = dialog.order();
  if (const QString name = dialog.keptAs(); !name.isEmpty()) {
    if (auto kept = session::ReportTemplates(study_.files().templates).keep(name.toStdString(), order_); !kept)
      study_.tell(kept.error());
    else
      fillTemplates(name);
  }
  refresh();
}

void ReportPage::ask(session::ReportWish::Form form, const QString& suggested_name) {
  form_ = form;
  Q_EMIT saveRequested(suggested_name);
}

session::ReportWish ReportPage::wish() const {
  return {names_people_->isChecked(), has_pictures_->isChecked(), order_, false, form_};
}

void ReportPage::layOut(QLabel* title) {
  auto* line = new QHBoxLayout;
  line->addWidget(title, 1);
  line->addWidget(template_);
  line->addWidget(names_people_);
  line->addWidget(has_pictures_);
  line->addWidget(html_);
  line->addWidget(pdf_);
  line->addWidget(print_);
  line->addWidget(seal_);
  line->addWidget(more_);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(20, 12, 20, 12);
  column->addLayout(line);
  column->addWidget(sealed_);
  column->addWidget(why_not_, 1);
  column->addWidget(view_, 1);
}

void ReportPage::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  refresh();
}

core::Status ReportPage::withSource(const std::function<core::Status(const report::Source&)>& act) const {
  const core::Record record = store::recordOf(study_.session().recorded());
  const auto source = session::reportSource(study_.session().open(), record, study_.judgement(), wish());
  return source ? act(*source) : source.error();
}

core::Result<std::string> ReportPage::page(const report::Palette& palette, const report::Charts& charts) const {
  core::Result<std::string> made(std::string{});
  const core::Status status = withSource([&](const report::Source& source) -> core::Status {
    made = report::htmlPage(source, palette, charts);
    return made ? core::Status(core::Done{}) : made.error();
  });
  return status ? made : status.error();
}

void ReportPage::refresh() {
  if (!isVisible() || !study_.hasStudy()) return;
  pictures_.make(study_.study(), study_.judgement(), currentPalette());
  const auto made = page(currentPalette(), pictures_.markup(kScreenWidth));
  view_->setVisible(made.ok());
  why_not_->setVisible(!made.ok());
  for (QWidget* control :
       std::initializer_list<QWidget*>{template_, names_people_, has_pictures_, html_, pdf_, print_, seal_, more_})
    setUsable(*control, control == seal_ && sealing_.isBusy() ? tr("It is being sealed")
                        : made                                ? QString()
                               : tr("There is no report yet: %1").arg(toQt(made.error().what)));
  if (!made)
    return why_not_->setText(tr("No report yet: %1.\n\n%2.").arg(toQt(made.error().what), toQt(made.error().remedy)));
  if (*made == shown_) return view_->viewport()->update();  // where it is scrolled to stays, too
  shown_ = *made;
  view_->setHtml(QString::fromStdString(shown_));
}

void ReportPage::restyle() { refresh(); }

void ReportPage::save(const QString& path) {
  const std::string file = path.toStdString();
  if (file.ends_with(".zip")) return seal(file);
  const auto written = withSource([&](const report::Source& source) {
    if (session::isDrawnByWindow(file)) return writePrinted(file, source, wish());
    return session::writeReport(file, source, std::filesystem::path(study_.session().open().path()).stem().string(),
                                wish());
  });
  if (!written) study_.tell(written.error());
}

void ReportPage::seal(const std::string& path) {
  session::KeptPersonal kept;
  if (names_people_->isChecked()) kept.kinds.insert(core::PersonalKind::Person);
  kept.has_pictures = has_pictures_->isChecked();
  auto sealing = session::beginSealing(study_.session().open(), path, kept);
  if (!sealing) return study_.tell(sealing.error());
  sealed_->setText(tr("It is being sealed …"));
  sealed_->show();
  setUsable(*seal_, tr("It is being sealed"));
  sealing_.run<core::Result<session::SealedBundle>>(
      *std::move(sealing), [this, shown = toQt(path)](const auto& sealed) { tellSealed(shown, sealed); });
}

void ReportPage::tellSealed(const QString& path, const core::Result<session::SealedBundle>& sealed) {
  refresh();  // the button's reason
  sealed_->setVisible(sealed.ok());
  if (!sealed) return study_.tell(sealed.error());
  const QString left_out = toQt(session::leftOutText(sealed->left_out));
  sealed_->setText(tr("Sealed in %1, to be kept elsewhere: %2%3")
                       .arg(path, toQt(sealed->seal),
                            left_out.isEmpty() ? QString() : tr(". Left out, or called by number: %1.").arg(left_out)));
}

void ReportPage::print(QPagedPaintDevice& paper) {
  if (auto printed = withSource([&](const report::Source& source) { return printReport(source, paper); }); !printed)
    study_.tell(printed.error());
}

}  // namespace app
