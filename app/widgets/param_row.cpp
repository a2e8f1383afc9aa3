#include "widgets/param_row.h"

#include <QCheckBox>
#include <QClipboard>
#include <QComboBox>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QContextMenuEvent>
#include <QLabel>
#include <QMenu>
#include <QPainter>
#include <QRandomGenerator>
#include <QSignalBlocker>
#include <QToolButton>
#include <algorithm>

#include "edit/clipboard.h"
#include "params/param_json.h"
#include "words/typeset.h"
#include "widgets/ask_colour.h"
#include "widgets/copies_editor.h"
#include "widgets/file_editor.h"
#include "widgets/motion_pill.h"
#include "widgets/number_field.h"
#include "widgets/swatch.h"
#include "widgets/text.h"
#include "widgets/text_field.h"
#include "widgets/theme.h"
#include "widgets/tone_curve_editor.h"
#include "widgets/value_slider.h"

namespace oa::app {
ParamRow::ParamRow(Document& document, ParamAddress at, QWidget* parent, Point pixels)
    : QWidget(parent), document_(document), at_(at), spec_(document.spec(at)), pixels_(pixels) {
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(6);
  const QString label = text(spec_.label);
  setToolTip(text(spec_.help));
  setObjectName(QStringLiteral("param-%1").arg(text(spec_.id)));
  if (spec_.type != ParamType::Toggle && spec_.type != ParamType::ToneCurve && spec_.type != ParamType::File &&
      spec_.type != ParamType::Copies && spec_.type != ParamType::Text) {
    auto* name = new QLabel(label, this);
    name->setFixedWidth(74);
    row->addWidget(name);
  }
  switch (spec_.type) {
    case ParamType::Number:
    case ParamType::Integer:
    case ParamType::Angle:
      addNumber(row, -1);
      break;
    case ParamType::Point:
      row->addStretch(1);
      addNumber(row, 0);
      addNumber(row, 1);
      break;
    case ParamType::Colour:
      addColour(row);
      break;
    case ParamType::Choice:
      addChoice(row);
      break;
    case ParamType::Toggle:
      addToggle(row);
      break;
    case ParamType::Seed:
      addSeed(row);
      break;
    case ParamType::ToneCurve:
      addCurve(row);
      break;
    case ParamType::Layer:
      addLayerChoice(row);
      break;
    case ParamType::File:
      addFile(row);
      break;
    case ParamType::Outline:
      addOutline(row);
      break;
    case ParamType::Copies:
      addCopies(row);
      break;
    case ParamType::Text:
      addText(row);
      break;
    case ParamType::Font:
      addFont(row);
      break;
  }
  if (spec_.canMove() && !at.isFar()) {
    auto* pill = new MotionPill(document, at, this);
    row->addWidget(pill);
    refreshers_.push_back([pill](const Value&) { pill->update(); });
  } else if (!at.isFar() && spec_.type != ParamType::ToneCurve && spec_.type != ParamType::File && spec_.type != ParamType::Copies &&
             spec_.type != ParamType::Text) {
    row->addSpacing(58);  // as wide as the pill and its gap
  }
  // Screen readers hear the parameter's name on each of its controls.
  for (QWidget* child : findChildren<QWidget*>())
    if (child->accessibleName().isEmpty()) child->setAccessibleName(label);
  refresh();
}

void ParamRow::refresh() {
  // After a change of layers or steps another parameter may stand here, until the card is made anew.
  if (!document_.valid(at_) || &document_.spec(at_) != &spec_) return;
  // Most changes concern one row; the others need not be painted again.
  if (const Param& param = document_.shown(at_); shown_ != param) {
    shown_ = param;
    for (const auto& each : refreshers_) each(param.base);
  }
  if (!spec_.shownWhen) return;
  const Document::Table table = Document::table(const_cast<Scene&>(document_.scene()), at_);
  setVisible(isShown(table.specs, {table.params, table.count}, static_cast<std::size_t>(at_.param)));
}

void ParamRow::addNumber(QBoxLayout* row, int part) {
  const double per = part == 0 && pixels_.x > 0 ? pixels_.x : part == 1 && pixels_.y > 0 ? pixels_.y : 1;
  const auto read = [part, per](const Value& v) {
    if (const auto* point = std::get_if<Point>(&v)) return (part == 0 ? point->x : point->y) * per;
    return std::get<double>(v);
  };
  const auto write = [this, part, per](double v) {
    Value value = document_.shown(at_).base;
    if (auto* point = std::get_if<Point>(&value)) {
      double& own = part == 0 ? point->x : point->y;
      double& other = part == 0 ? point->y : point->x;
      // Width and height that belong together are changed together.
      if (keepsProportions() && own > 0) other = std::clamp(other * (v / per) / own, spec_.min, spec_.max);
      own = v / per;
    } else {
      value = v;
    }
    document_.setBase(at_, value, true);
  };
  const auto end = [this] { document_.endGesture(); };
  if (part < 0) {
    auto* slider = new ValueSlider(spec_, this);
    connect(slider, &ValueSlider::moved, this, write);
    connect(slider, &ValueSlider::released, this, end);
    refreshers_.push_back([slider, read](const Value& v) { slider->setValue(read(v)); });
    row->addWidget(slider, 1);
  }
  if (part == 0 || part == 1) {
    auto* way = new QLabel(part == 0 ? QStringLiteral("→") : QStringLiteral("↓"), this);
    way->setObjectName(QStringLiteral("muted"));
    way->setToolTip(part == 0 ? tr("Across") : tr("Down"));
    row->addWidget(way);
  }
  const ParamSpec* shown = &spec_;
  if (per != 1) {
    ParamSpec& own = *inPixels_.emplace_back(std::make_unique<ParamSpec>(spec_));
    own.min *= per;
    own.max *= per;
    own.sliderMin *= per;
    own.sliderMax *= per;
    own.unit = Unit::Pixels;
    shown = &own;
  }
  auto* field = new NumberField(*shown, this);
  if (part == 0 || part == 1) field->setAccessibleName(text(spec_.label) + (part == 0 ? tr(" across") : tr(" down")));
  connect(field, &NumberField::moved, this, write);
  connect(field, &NumberField::released, this, end);
  refreshers_.push_back([field, read](const Value& v) { field->setValue(read(v)); });
  row->addWidget(field);
}

bool ParamRow::keepsProportions() const {
  if (at_.step != ParamAddress::kPlace || at_.param != static_cast<int>(PlaceParam::Size)) return false;
  return std::get<bool>(document_.layer(at_.layer)->place[static_cast<std::size_t>(PlaceParam::Linked)].base);
}

void ParamRow::copyMotions() const {
  QGuiApplication::clipboard()->setText(QString::fromStdString(edit::motionsToText(spec_, document_.shown(at_))));
}

void ParamRow::pasteMotions() { document_.pasteMotions(at_, QGuiApplication::clipboard()->text().toStdString()); }

void ParamRow::addColour(QBoxLayout* row) {
  auto* swatch = new Swatch(this);
  connect(swatch, &QAbstractButton::clicked, this, [this] {
    askColour(this, text(spec_.label), std::get<Colour>(document_.shown(at_).base), document_.colours(),
              [this](const Colour& c) { document_.setBase(at_, c, true); });
    document_.endGesture();
  });
  refreshers_.push_back([swatch](const Value& v) { swatch->setColour(std::get<Colour>(v)); });
  row->addWidget(swatch, 1);
  auto* dropper = new QToolButton(this);
  dropper->setObjectName(QStringLiteral("dropper"));
  dropper->setIcon(icon(QStringLiteral("dropper")));
  dropper->setToolTip(tr("Take it from the picture"));
  dropper->setAccessibleName(tr("%1: take it from the picture").arg(text(spec_.label)));
  connect(dropper, &QToolButton::clicked, this, [this] { document_.pickColour(at_); });
  row->addWidget(dropper);
}

void ParamRow::addChoice(QBoxLayout* row) {
  auto* box = new QComboBox(this);
  for (const auto choice : spec_.choices) {
    QString shown = text(choice);
    shown[0] = shown[0].toUpper();
    box->addItem(shown == QStringLiteral("Oklab") ? QStringLiteral("OKLab") : shown, text(choice));
  }
  connect(box, &QComboBox::activated, this,
          [this, box](int i) { document_.setBase(at_, box->itemData(i).toString().toStdString(), false); });
  refreshers_.push_back([box](const Value& v) { box->setCurrentIndex(box->findData(text(std::get<std::string>(v)))); });
  row->addWidget(box, 1);
}

void ParamRow::addLayerChoice(QBoxLayout* row) {
  auto* box = new QComboBox(this);
  const auto fill = [this, box](const Value& value) {
    const auto target = static_cast<Id>(std::get<double>(value));
    const QSignalBlocker quiet(box);
    box->clear();
    box->addItem(tr("None"), 0);
    // Top first, as in the pile; what could not be shown without a circle is refused when it is chosen.
    QList<std::pair<QString, Id>> names;
    forEachLayer(document_.scene().layers, [&](const Layer& layer, int depth) {
      if (layer.id != at_.layer) names.prepend({QString(depth * 3, QLatin1Char(' ')) + text(layer.name), layer.id});
    });
    for (const auto& [name, id] : names) box->addItem(name, id);
    if (target != 0 && box->findData(target) < 0) box->addItem(tr("Missing layer"), target);
    box->setCurrentIndex(std::max(0, box->findData(target)));
  };
  connect(box, &QComboBox::activated, this,
          [this, box](int i) { document_.setBase(at_, static_cast<double>(box->itemData(i).toInt()), false); });
  connect(&document_, &Document::changed, box, [this, fill](bool structure) {
    if (structure && document_.valid(at_) && &document_.spec(at_) == &spec_) fill(document_.shown(at_).base);
  });
  refreshers_.push_back(fill);
  row->addWidget(box, 1);
}

void ParamRow::addFile(QBoxLayout* row) {
  auto* editor = new FileEditor(document_, at_, this);
  refreshers_.push_back([editor](const Value& v) { editor->setFile(std::get<MediaRef>(v)); });
  row->addWidget(editor, 1);
}

void ParamRow::addText(QBoxLayout* row) {
  auto* field = new TextField(this);
  connect(field, &TextField::moved, this, [this](const QString& typed) {
    if (const Value value = oa::Text{typed.toStdString()}; checkValue(spec_, value, {})) document_.setBase(at_, value, true);
  });
  connect(field, &TextField::released, this, [this] { document_.endGesture(); });
  connect(&document_, &Document::wordsWanted, field, [this, field](const ParamAddress& at) {
    if (at != at_) return;
    field->setFocus();
    field->selectAll();
  });
  refreshers_.push_back([field](const Value& v) { field->setWords(QString::fromStdString(std::get<oa::Text>(v).text)); });
  row->addWidget(field, 1);
}

void ParamRow::addFont(QBoxLayout* row) {
  auto* box = new QComboBox(this);
  // Those that come with the program stand first.
  for (const char* shipped : {"League Spartan", "Cabin", "B612", "Dancing Script"})
    if (const auto all = fontFamilies(); std::find(all.begin(), all.end(), shipped) != all.end())
      box->addItem(QString::fromUtf8(shipped), QString::fromUtf8(shipped));
  if (box->count() > 0) box->insertSeparator(box->count());
  for (const std::string& family : fontFamilies()) box->addItem(QString::fromStdString(family), QString::fromStdString(family));
  box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  box->setMinimumContentsLength(10);
  const int known = box->count();
  connect(box, &QComboBox::activated, this,
          [this, box](int i) { document_.setBase(at_, oa::Text{box->itemData(i).toString().toStdString()}, false); });
  refreshers_.push_back([box, known](const Value& v) {
    const QString family = QString::fromStdString(std::get<oa::Text>(v).text);
    while (box->count() > known) box->removeItem(known);
    if (box->findData(family) < 0) box->addItem(tr("%1 (missing)").arg(family), family);
    box->setCurrentIndex(box->findData(family));
  });
  row->addWidget(box, 1);
}

void ParamRow::addCopies(QBoxLayout* row) {
  auto* editor = new CopiesEditor(document_, at_, this);
  refreshers_.push_back([editor](const Value&) { editor->refresh(); });
  row->addWidget(editor, 1);
}

void ParamRow::addOutline(QBoxLayout* row) {
  auto* count = new QLabel(this);
  count->setObjectName(QStringLiteral("muted"));
  refreshers_.push_back(
      [count](const Value& v) { count->setText(tr("%n points", "", static_cast<int>(std::get<Outline>(v).points.size()))); });
  row->addWidget(count);
  row->addStretch(1);
  auto* edit = new QToolButton(this);
  edit->setObjectName(QStringLiteral("editOutline"));
  edit->setText(tr("Edit…"));
  edit->setCheckable(true);
  edit->setToolTip(
      tr("Show its points in the picture: drag them (with Shift both sides), double-click the line for one more, a point for a round one; "
         "Page Up and Down choose one, Delete takes it away"));
  edit->setAccessibleName(tr("%1: edit in the picture").arg(text(spec_.label)));
  connect(edit, &QToolButton::clicked, this, [this](bool on) { document_.editInPicture(on ? std::optional(at_) : std::nullopt); });
  connect(&document_, &Document::inPictureEdited, edit, [this, edit] { edit->setChecked(document_.editedInPicture() == at_); });
  edit->setChecked(document_.editedInPicture() == at_);
  row->addWidget(edit);
}

void ParamRow::addToggle(QBoxLayout* row) {
  auto* box = new QCheckBox(text(spec_.label), this);
  connect(box, &QCheckBox::clicked, this, [this](bool on) { document_.setBase(at_, on, false); });
  refreshers_.push_back([box](const Value& v) { box->setChecked(std::get<bool>(v)); });
  row->addWidget(box, 1);
}

void ParamRow::addSeed(QBoxLayout* row) {
  auto* another = new QToolButton(this);
  another->setIcon(icon(QStringLiteral("dices")));
  another->setToolTip(tr("Another one"));
  another->setAccessibleName(tr("Another seed"));
  connect(another, &QToolButton::clicked, this,
          [this] { document_.setBase(at_, static_cast<double>(QRandomGenerator::global()->bounded(1000000)), false); });
  row->addStretch(1);
  row->addWidget(another);
  addNumber(row, 2);
}

void ParamRow::addCurve(QBoxLayout* row) {
  auto* editor = new ToneCurveEditor(text(spec_.label), this);
  connect(editor, &ToneCurveEditor::moved, this, [this](const Curve& curve) { document_.setBase(at_, curve, true); });
  connect(editor, &ToneCurveEditor::released, this, [this] { document_.endGesture(); });
  refreshers_.push_back([editor](const Value& v) { editor->setCurve(std::get<Curve>(v)); });
  row->addWidget(editor, 1);
}

void ParamRow::contextMenuEvent(QContextMenuEvent* event) {
  if (!document_.valid(at_) || &document_.spec(at_) != &spec_) return;
  QMenu menu(this);
  const Param& param = document_.shown(at_);
  menu.addAction(tr("Back to the default"), this, [this] { document_.setBase(at_, spec_.base, false); })
      ->setEnabled(param.base != spec_.base);
  if (spec_.type == ParamType::Outline) {
    menu.addAction(tr("Copy it as an SVG path"), this, [this] {
      QGuiApplication::clipboard()->setText(QString::fromStdString(pathText(std::get<Outline>(document_.shown(at_).base))));
    });
    const auto path = outlineFromPath(QGuiApplication::clipboard()->text().trimmed().toStdString());
    QAction* paste = menu.addAction(tr("Paste an SVG path"), this, [this, path] { document_.setBase(at_, *path, false); });
    paste->setEnabled(path.has_value() && path->points.size() > 1 && checkValue(spec_, Value(*path), {}).has_value());
  }
  if (spec_.canMove() && !at_.isFar()) {
    menu.addSeparator();
    menu.addAction(tr("Motion…"), this, [this] { findChild<MotionPill*>()->click(); });
    menu.addAction(tr("Show its curve"), this, [this] { document_.showMotion(at_); })->setEnabled(moves(param));
    menu.addAction(tr("Copy its motion"), this, &ParamRow::copyMotions)->setEnabled(moves(param));
    menu.addAction(tr("Paste the motion"), this, &ParamRow::pasteMotions)
        ->setEnabled(edit::holdsMotions(QGuiApplication::clipboard()->text().toStdString()));
    menu.addAction(tr("Stop moving"), this,
                   [this] {
                     while (moves(document_.shown(at_))) document_.removeMotion(at_);
                   })
        ->setEnabled(moves(param));
  }
  if (canPass(spec_) && !at_.isFar() && at_.step != ParamAddress::kMask && at_.step != ParamAddress::kMaskSource &&
      at_.item != ParamAddress::kAllItems) {
    menu.addSeparator();
    for (const bool leaving : {false, true}) {
      const bool has = farValueOf(param, leaving) != nullptr;
      QAction* far = menu.addAction(leaving ? tr("Leaves to another value") : tr("Arrives from another value"), this,
                                    [this, leaving, has] { document_.setFar(at_, leaving, !has); });
      far->setCheckable(true);
      far->setChecked(has);
    }
  }
  menu.exec(event->globalPos());
}

void ParamRow::showItem(Id item) {
  if (at_.item != item) {
    at_.item = item;
    shown_.reset();
    if (auto* pill = findChild<MotionPill*>()) pill->setAddress(at_);
  }
  refresh();
}

}  // namespace oa::app
