#include "app/question/case_dialog.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QRegularExpression>
#include <QVBoxLayout>

#include <fmt/format.h>

#include "app/model/command_text.h"
#include "app/model/qt_text.h"
#include "app/question/number_field.h"
#include "app/question/results_table.h"
#include "app/shell/theme.h"
#include "app/shell/usable.h"
#include "core/values/number_text.h"

namespace app {
namespace {

// The entries of the response box.
enum Response { Open, FeatureActs, FeatureDoesNotAct, Control };

Response responseOf(const core::Case& a_case) {
  if (a_case.is_control) return Control;
  if (a_case.feature == core::FeatureActs::Yes) return FeatureActs;
  return a_case.feature == core::FeatureActs::No ? FeatureDoesNotAct : Open;
}

}  // namespace

// Nothing of it is on unless a person chooses it.
void CaseDialog::makeRights(const core::Without& without) {
  const std::array<bool, 3> is_on{without.new_privileges, without.network, without.shared_temporary_folder};
  const std::array<QString, 3> names{tr("new privileges"), tr("network"), tr("shared temporary folder")};
  const std::array<QString, 3> tips{tr("Neither the command nor what it starts may become another user"),
                                    tr("It sees no network, and gains no privileges"),
                                    tr("/tmp is its own and empty, and it gains no privileges")};
  const std::array<QString, 3> ids{QStringLiteral("noPrivilegesCheck"), QStringLiteral("noNetworkCheck"),
                                   QStringLiteral("ownTemporaryCheck")};
  for (std::size_t i = 0; i < without_.size(); ++i) {
    without_[i] = new QCheckBox(names[i], this);
    without_[i]->setObjectName(ids[i]);
    without_[i]->setChecked(is_on[i]);
    without_[i]->setToolTip(tips[i] + tr(". iron-lever-cli rights tries what this case can do without"));
    const bool has_use = given_.source != core::ResultSource::ByHand || is_on[i];  // to be taken back
    setUsable(*without_[i], has_use ? QString() : tr("Its results are typed: no command is run for it"));
  }
}

void CaseDialog::makePossible(const core::Possible& possible) {
  QStringList codes;
  for (const int code : possible.exit_codes) codes << QString::fromStdString(fmt::format("{}", code));
  exit_codes_ = new QLineEdit(codes.join(QLatin1Char(' ')), this);
  exit_codes_->setObjectName(QStringLiteral("exitCodesEdit"));
  exit_codes_->setAccessibleName(tr("codes with which the program ends where it does not run"));
  exit_codes_->setPlaceholderText(tr("codes, as 3 or 3 7"));
  exit_codes_->setToolTip(
      tr("A level at which the program ends with such a code does not run this case: that is a "
         "result, and no failed pass"));
  not_possible_ = new QLineEdit(QString::fromStdString(possible.pattern), this);
  not_possible_->setObjectName(QStringLiteral("notPossibleEdit"));
  not_possible_->setAccessibleName(tr("pattern of what the program prints where it does not run"));
  not_possible_->setFont(monoFont());
  not_possible_->setPlaceholderText(QStringLiteral("not enough memory"));
  not_possible_->setToolTip(tr("A regular expression, looked for in all that it prints"));
  const QString typed = tr("Its results are typed: no command is run for it");
  const bool has_use = given_.source != core::ResultSource::ByHand || possible.isAsked();
  for (QLineEdit* edit : {exit_codes_, not_possible_}) setUsable(*edit, has_use ? QString() : typed);
}

void CaseDialog::makeCompanion(const core::Case& a_case) {
  const core::Companion& companion = a_case.companion;
  companion_ = new QLineEdit(textOf(companion.command), this);
  companion_->setObjectName(QStringLiteral("companionEdit"));
  companion_->setAccessibleName(tr("command of what runs beside it"));
  companion_->setFont(monoFont());
  companion_->setPlaceholderText(QStringLiteral("recorder --quality high"));
  companion_->setToolTip(
      tr("Started before each pass and ended after it. The case with it and the case alone are two cases: put both in, "
         "and the findings hold them against each other"));
  companion_name_ = new QLineEdit(QString::fromStdString(companion.name), this);
  companion_name_->setObjectName(QStringLiteral("companionNameEdit"));
  companion_name_->setAccessibleName(tr("what it is called"));
  companion_name_->setPlaceholderText(tr("a recording"));
  head_start_ = numberField<DecimalBox>(this, "headStartSpin", 0.0, 600.0, tr(" s before"));
  head_start_->setValue(companion.starts_before_s);
  audience_ = new QLineEdit(QString::fromStdString(a_case.audience), this);
  audience_->setObjectName(QStringLiteral("audienceEdit"));
  audience_->setPlaceholderText(tr("shows"));
  audience_->setToolTip(
      tr("Whom the case stands for. Where cases name several, the findings say who gains and who "
         "loses"));
  const bool has_use = a_case.source != core::ResultSource::ByHand || companion.isAsked();
  for (QWidget* field : std::initializer_list<QWidget*>{companion_, companion_name_, head_start_})
    setUsable(*field, has_use ? QString() : tr("Its results are typed: no command is run for it"));
}

void CaseDialog::makeFields(const core::Case& a_case) {
  nature_ = new QComboBox(this);
  nature_->setObjectName(QStringLiteral("natureBox"));
  nature_->addItems({tr("a piece of real work"), tr("synthetic: made for measuring")});
  nature_->setCurrentIndex(a_case.is_synthetic ? 1 : 0);
  response_ = new QComboBox(this);
  response_->setObjectName(QStringLiteral("responseBox"));
  response_->addItems({tr("not known whether the change has an effect here"), tr("the change has an effect here"),
                       tr("the change has no effect here: it should not move"),
                       tr("a control: it should not move, or something else moved")});
  response_->setCurrentIndex(responseOf(a_case));
  played_ = new QCheckBox(tr("a person plays it"), this);
  played_->setObjectName(QStringLiteral("playedCheck"));
  played_->setChecked(a_case.is_played);
  length_ = numberField<DecimalBox>(this, "playedLengthSpin", 1.0, 7200.0, tr(" s counted"));
  length_->setDecimals(0);
  length_->setValue(a_case.played_s);
  route_ = new QLineEdit(QString::fromStdString(a_case.route), this);
  route_->setObjectName(QStringLiteral("routeEdit"));
  route_->setPlaceholderText(tr("from the gate once around the rings, looking ahead"));
  settings_file_ = new QLineEdit(QString::fromStdString(a_case.settings_file), this);
  settings_file_->setObjectName(QStringLiteral("settingsFileEdit"));
  settings_file_->setFont(monoFont());
  settings_file_->setPlaceholderText(QStringLiteral("ring-pass.conf"));
  settings_file_->setToolTip(
      tr("Kept with each pass, and compared: a preset that resets itself is found. Seen from the study's folder"));
  recorded_program_ = new QLineEdit(QString::fromStdString(a_case.recorded_program), this);
  recorded_program_->setObjectName(QStringLiteral("recordedProgramEdit"));
  recorded_program_->setFont(monoFont());
  recorded_program_->setPlaceholderText(tr("the one that shows most frames"));
  recorded_program_->setToolTip(
      tr("Where several programs or windows show frames: the program, or the title of the window, whose frames count"));
  setUsable(*recorded_program_, a_case.source == core::ResultSource::Recorded
                                    ? QString()
                                    : tr("Only of a case whose result is frames recorded by us"));
}

// How its command is started, and what is started with it.
void CaseDialog::addRunning(QFormLayout& form) {
  auto* possible = new QHBoxLayout;
  possible->setSpacing(8);
  possible->addWidget(exit_codes_, 1);
  possible->addWidget(new QLabel(tr("or prints"), this));
  possible->addWidget(not_possible_, 2);
  form.addRow(tr("does not run if it ends with"), possible);
  auto* companion = new QHBoxLayout;
  companion->setSpacing(8);
  companion->addWidget(companion_, 3);
  companion->addWidget(new QLabel(tr("called"), this));
  companion->addWidget(companion_name_, 2);
  companion->addWidget(head_start_);
  form.addRow(tr("runs beside it"), companion);
  form.addRow(tr("stands for"), audience_);
  auto* without = new QHBoxLayout;
  for (QCheckBox* check : without_) without->addWidget(check);
  without->addStretch(1);
  form.addRow(tr("runs without"), without);
}

void CaseDialog::addDeclared(QFormLayout& form, const core::Case& a_case) {
  auto* words = new QLabel(tr("Declared, where it applies; it stands in the report. Empty: nobody said."), this);
  words->setProperty("soft", true);
  form.addRow(words);
  // Two beside each other: the whole dialog is to fit a screen of 768 rows.
  QHBoxLayout* row = nullptr;
  for (const core::DeclaredFact& fact : core::kDeclaredFacts) {
    auto* edit = new QLineEdit(QString::fromStdString(a_case.declaredFact(fact.key)), this);
    edit->setObjectName(toQt(fact.key) + QStringLiteral("Edit"));
    edit->setPlaceholderText(toQt(fact.example));
    edit->setAccessibleName(toQt(fact.title));
    if (declared_.size() % 2 == 0) {
      row = new QHBoxLayout;
      form.addRow(toQt(fact.title), row);
    } else {
      auto* title = new QLabel(toQt(fact.title), this);
      title->setMinimumWidth(130);
      row->addWidget(title);
    }
    row->addWidget(edit, 1);
    declared_.push_back(edit);
  }
}

CaseDialog::CaseDialog(const core::Case& a_case, QWidget* parent) : QDialog(parent), given_(a_case) {
  setObjectName(QStringLiteral("caseDialog"));
  setWindowTitle(tr("What kind of case %1 is").arg(QString::fromStdString(a_case.title())));
  resize(1110, 0);
  makeFields(a_case);
  makeRights(a_case.without);
  makePossible(a_case.possible);
  makeCompanion(a_case);
  auto* form = new QFormLayout;
  form->setVerticalSpacing(8);
  form->addRow(tr("it is"), nature_);
  form->addRow(tr("response"), response_);
  auto* played = new QHBoxLayout;
  played->addWidget(played_, 1);
  played->addWidget(length_);
  form->addRow(tr("by hand"), played);
  form->addRow(tr("route"), route_);
  form->addRow(tr("settings file"), settings_file_);
  form->addRow(tr("frames of"), recorded_program_);
  addRunning(*form);
  results_ = new ResultsTable(a_case, this);
  form->addRow(tr("beside the headline"), results_);
  addDeclared(*form, a_case);
  auto* buttons = new QDialogButtonBox(this);
  buttons->addButton(tr("Apply"), QDialogButtonBox::AcceptRole);
  buttons->addButton(tr("Cancel"), QDialogButtonBox::RejectRole);
  auto* layout = new QVBoxLayout(this);
  layout->setSpacing(12);
  layout->addLayout(form);
  layout->addWidget(buttons);
  connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  connect(played_, &QCheckBox::toggled, this, &CaseDialog::showPlayed);
  showPlayed();
}

void CaseDialog::showPlayed() {
  for (QWidget* widget : std::initializer_list<QWidget*>{route_, length_})
    setUsable(*widget, played_->isChecked() ? QString() : tr("Only of a case that a person plays"));
}

core::Case CaseDialog::edited() const {
  core::Case a_case = given_;
  a_case.is_synthetic = nature_->currentIndex() == 1;
  const int response = response_->currentIndex();
  a_case.is_control = response == Control;
  a_case.feature = response == FeatureActs         ? core::FeatureActs::Yes
                   : response == FeatureDoesNotAct ? core::FeatureActs::No
                                                   : core::FeatureActs::Unknown;
  a_case.is_played = played_->isChecked();
  a_case.route = route_->text().trimmed().toStdString();
  a_case.played_s = length_->value();
  a_case.settings_file = settings_file_->text().trimmed().toStdString();
  a_case.recorded_program = recorded_program_->text().trimmed().toStdString();
  a_case.without = {without_[0]->isChecked(), without_[1]->isChecked(), without_[2]->isChecked()};
  a_case.further = results_->results();
  a_case.possible.exit_codes.clear();
  for (const QString& code :
       exit_codes_->text().split(QRegularExpression(QStringLiteral("[ ,;]+")), Qt::SkipEmptyParts))
    a_case.possible.exit_codes.push_back(static_cast<int>(core::numberOf(code.toStdString()).value_or(-1)));
  a_case.possible.pattern = not_possible_->text().trimmed().toStdString();
  a_case.companion = {wordsOf(companion_->text()), companion_name_->text().trimmed().toStdString(),
                      head_start_->value()};
  if (!a_case.companion.isAsked()) a_case.companion = {};
  a_case.audience = audience_->text().trimmed().toStdString();
  a_case.declared.clear();
  for (std::size_t i = 0; i < declared_.size(); ++i)
    if (const QString said = declared_[i]->text().trimmed(); !said.isEmpty())
      a_case.declared.emplace_back(core::kDeclaredFacts[i].key, said.toStdString());
  return a_case;
}

QString natureText(const core::Case& a_case) {
  QStringList parts{a_case.is_synthetic ? tr("synthetic") : tr("real"),
                    a_case.is_played ? tr("played by hand") : tr("by command")};
  if (a_case.is_control) parts << tr("a control");
  if (a_case.feature == core::FeatureActs::No) parts << tr("should not move");
  if (a_case.feature == core::FeatureActs::Yes) parts << tr("the change has an effect here");
  if (!a_case.further.empty())
    parts << (a_case.further.size() == 1 ? tr("1 result beside the headline")
                                         : tr("%1 results beside the headline").arg(a_case.further.size()));
  if (!a_case.audience.empty()) parts << tr("for %1").arg(toQt(a_case.audience));
  if (a_case.without.any()) parts << toQt(core::withoutText(a_case.without));
  if (!a_case.declared.empty())
    parts << (a_case.declared.size() == 1 ? tr("1 fact declared")
                                          : tr("%1 facts declared").arg(a_case.declared.size()));
  return parts.join(QStringLiteral(" · "));
}

}  // namespace app
