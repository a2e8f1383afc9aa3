#include "help/help_pages.h"

#include "loop/formula.h"

#include <QAbstractButton>
#include <QLabel>
#include <QWidget>
#include <set>

#include "base/numbers.h"
#include "commands/commands.h"
#include "widgets/text.h"

namespace oa::app {
namespace {

QString escaped(std::string_view words) { return text(words).toHtmlEscaped(); }

QString rangeOf(const ParamSpec& spec) {
  if (spec.type == ParamType::Choice) {
    QStringList names;
    for (const auto choice : spec.choices) names << text(choice);
    return names.join(QStringLiteral(", "));
  }
  if (!spec.isScalar()) return {};
  const double per = spec.unit == Unit::Share ? 100 : 1;
  const QString unit = spec.unit == Unit::Share  ? QStringLiteral(" %")
                       : spec.unit == Unit::None ? QString()
                                                 : QLatin1Char(' ') + text(unitText(spec.unit));
  return HelpPage::tr("%1 to %2")
      .arg(text(numberText(spec.min * per)), text(numberText(spec.max * per)) + unit)
      .replace(QLatin1Char('-'), QChar(0x2212));
}

QString motionsOf(const ParamSpec& spec) {
  QStringList names;
  for (const MotionKind kind : allowedMotions(spec))
    if (kind != MotionKind::Still) names << text(motionName(kind));
  return names.join(QStringLiteral(", "));
}

// One value after the other: its name, what it does, and small below what it can be and how it can move.
QString tableOf(std::span<const ParamSpec> params) {
  QString html;
  for (const ParamSpec& spec : params) {
    html += QStringLiteral("<p><b>%1</b><br>%2").arg(escaped(spec.label), escaped(spec.help));
    QStringList small;
    if (const QString range = rangeOf(spec); !range.isEmpty()) small << range;
    if (const QString motions = motionsOf(spec); !motions.isEmpty()) small << HelpPage::tr("moves: %1").arg(motions);
    if (!small.isEmpty())
      html += QStringLiteral("<br><span class=\"small\">%1</span>").arg(small.join(QStringLiteral(" · ")).toHtmlEscaped());
    html += QStringLiteral("</p>");
  }
  return html;
}

QString heading(const QString& words) { return QStringLiteral("<h2>%1</h2>").arg(words.toHtmlEscaped()); }

}  // namespace

HelpPage pageOf(const StepSpec& step) {
  const bool source = step.kind == StepKind::Source;
  HelpPage page;
  page.id = QStringLiteral("step/") + text(step.id);
  page.group = source ? HelpPage::tr("Sources") : HelpPage::tr("Steps");
  page.title = text(step.title);
  page.html = heading(page.title) + QStringLiteral("<p>%1</p>").arg(escaped(step.help)) + tableOf(step.params);
  if (step.items) page.html += QStringLiteral("<h3>%1</h3>").arg(HelpPage::tr("Each of its parts")) + tableOf(step.items->params);
  return page;
}

HelpPage pageOf(const QString& id, const QString& title, const QString& what, std::span<const ParamSpec> params) {
  return {id, HelpPage::tr("Cards"), title, heading(title) + QStringLiteral("<p>%1</p>").arg(what.toHtmlEscaped()) + tableOf(params)};
}

HelpPage pageOf(const QString& id, const QString& group, const QString& title, const QString& what, const QWidget& part) {
  HelpPage page{id, group, title, heading(title)};
  if (!what.isEmpty()) page.html += QStringLiteral("<p>%1</p>").arg(what.toHtmlEscaped());
  if (!part.toolTip().isEmpty()) page.html += QStringLiteral("<p>%1</p>").arg(part.toolTip().toHtmlEscaped());
  std::set<QString> told;
  for (const QWidget* control : part.findChildren<QWidget*>()) {
    if (control->objectName() == QLatin1String("closeSheet")) continue;
    QString name = control->accessibleName();
    if (const auto* button = qobject_cast<const QAbstractButton*>(control); name.isEmpty() && button) name = button->text();
    name.remove(QLatin1Char('&'));
    const QString says = control->toolTip();
    if (says.isEmpty() || !told.insert(says).second) continue;
    // Some are named by what they do.
    page.html += name.isEmpty() || name == says ? QStringLiteral("<p>%1</p>").arg(says.toHtmlEscaped())
                                                : QStringLiteral("<p><b>%1</b><br>%2</p>").arg(name.toHtmlEscaped(), says.toHtmlEscaped());
  }
  return page;
}

HelpPage pageOf(const QString& id, const QString& group, const QString& title, const QString& what, const std::vector<HelpEntry>& entries) {
  HelpPage page{id, group, title, heading(title)};
  page.html += QStringLiteral("<p>%1</p>").arg(what.toHtmlEscaped());
  QString section;
  for (const HelpEntry& entry : entries) {
    if (entry.section != section) page.html += QStringLiteral("<h3>%1</h3>").arg(entry.section.toHtmlEscaped());
    section = entry.section;
    page.html += QStringLiteral("<p><b>%1</b><br>%2</p>").arg(entry.name.toHtmlEscaped(), entry.help.toHtmlEscaped());
  }
  return page;
}

HelpPage formulaPage() {
  std::vector<HelpEntry> entries;
  for (const Formula::Function& function : Formula::functions())
    entries.push_back({HelpPage::tr("What it may say"), text(function.name), text(function.help)});
  const std::pair<FormulaClosing, QString> ways[] = {
      {FormulaClosing::Level, HelpPage::tr("It is tilted until its end is as high as its beginning.")},
      {FormulaClosing::Blend,
       HelpPage::tr("Its last quarter runs over into what comes before its beginning: the way goes on as smoothly as it was written.")},
      {FormulaClosing::ThereAndBack, HelpPage::tr("It is run through to its end and back again, and rests at both.")}};
  for (const auto& [closing, help] : ways) {
    QString name = text(formulaClosingName(closing));
    name[0] = name[0].toUpper();
    entries.push_back({HelpPage::tr("Where it does not close"), name, help});
  }
  return pageOf(QStringLiteral("motion/formula"), HelpPage::tr("Motions"), HelpPage::tr("Formula"),
                HelpPage::tr("A motion that is written down. Its value is a share of the way to the far end: 0 stays, 1 is there, below 0 "
                             "goes the other way."),
                entries);
}

HelpPage pageOf(const Commands& commands) {
  HelpPage page{QStringLiteral("keys"), HelpPage::tr("Keys"), HelpPage::tr("All keys"), heading(HelpPage::tr("All keys"))};
  for (const Commands::Section& section : commands.sections()) {
    QString rows;
    for (const Command& command : commands.withKeys(section))
      rows += QStringLiteral("<tr><td class=\"key\"><b>%1</b></td><td>%2</td></tr>")
                  .arg(Commands::keysOf(command).toHtmlEscaped(), QString(command.help).toHtmlEscaped());
    if (!rows.isEmpty())
      page.html +=
          QStringLiteral("<h3>%1</h3><table cellpadding=\"3\">%2</table>").arg(QString(section.title).remove(QLatin1Char('&')), rows);
  }
  return page;
}

}  // namespace oa::app
