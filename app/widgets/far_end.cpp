#include "widgets/far_end.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>

#include "widgets/number_field.h"
#include "widgets/ask_colour.h"
#include "widgets/swatch.h"
#include "widgets/text.h"

namespace oa::app {

FarEnd::FarEnd(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
  row_ = new QHBoxLayout(this);
  row_->setContentsMargins(0, 0, 0, 0);
  row_->setSpacing(2);
}

const Value& FarEnd::far() const {
  const Motion& motion = document_.voice(*at_).motion;
  return ownCount(motion) > 0 ? ownValue(motion, key_) : motion.far;
}

void FarEnd::write(const Value& value) {
  Motion motion = document_.voice(*at_).motion;
  (ownCount(motion) > 0 ? ownValue(motion, key_) : motion.far) = value;
  document_.setMotion(*at_, motion, true);
}

// `part` is null for a plain number.
NumberField* FarEnd::addField(const char* name, const QString& accessible, double Point::*part) {
  auto* field = new NumberField(*spec_, this);
  field->setObjectName(QLatin1String(name));
  field->setAccessibleName(accessible);
  field->setFixedWidth(part ? 50 : std::max(58, field->width()));
  connect(field, &NumberField::moved, this, [this, part](double v) {
    if (!part) return write(v);
    Point point = std::get<Point>(far());
    point.*part = v;
    write(point);
  });
  connect(field, &NumberField::released, this, [this] { document_.endGesture(); });
  row_->addWidget(field);
  return field;
}

void FarEnd::rebuild(const ParamSpec& spec) {
  if (spec_ == &spec) return;
  spec_ = &spec;
  number_ = across_ = down_ = nullptr;
  swatch_ = nullptr;
  qDeleteAll(findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly));
  label_ = new QLabel(this);
  label_->setObjectName(QStringLiteral("muted"));
  row_->addWidget(label_);
  if (std::holds_alternative<double>(spec.base)) {
    number_ = addField("farEnd", tr("Far end of the swing"), nullptr);
  } else if (std::holds_alternative<Point>(spec.base)) {
    across_ = addField("farEndAcross", tr("Far end across"), &Point::x);
    down_ = addField("farEndDown", tr("Far end down"), &Point::y);
  } else if (std::holds_alternative<Outline>(spec.base)) {
    // Its points are seen in the picture, at the moment that is shown there.
    auto* edit = new QToolButton(this);
    edit->setObjectName(QStringLiteral("farEndOutline"));
    edit->setText(tr("Edit in the picture"));
    edit->setToolTip(tr("Go to the moment of a pose and drag its points; at any other moment a drag makes a new pose"));
    connect(edit, &QToolButton::clicked, this, [this] {
      if (!at_) return;
      ParamAddress outline = *at_;
      outline.motion = 0;
      document_.editInPicture(outline);
    });
    row_->addWidget(edit);
  } else {
    swatch_ = new Swatch(this);
    swatch_->setObjectName(QStringLiteral("farEndColour"));
    swatch_->setAccessibleName(tr("Far end of the swing"));
    connect(swatch_, &QAbstractButton::clicked, this, [this] {
      askColour(this, text(spec_->label), std::get<Colour>(far()), document_.colours(), [this](const Colour& c) { write(c); });
      document_.endGesture();
    });
    row_->addWidget(swatch_);
  }
}

void FarEnd::setMotion(std::optional<ParamAddress> at, int key) {
  at_ = at;
  key_ = key;
  bool goes = at_ && document_.valid(*at_);
  if (goes) {
    const Motion& motion = document_.voice(*at_).motion;
    const int own = ownCount(motion);
    goes = own > 0 ? key >= 0 && key < own
                   : motion.kind == MotionKind::Swing || motion.kind == MotionKind::Wander || motion.kind == MotionKind::Hops ||
                         motion.kind == MotionKind::Sound || motion.kind == MotionKind::Switch || motion.kind == MotionKind::Formula;
  }
  setVisible(goes);
  if (!goes) return;
  rebuild(document_.spec(*at_));
  const Motion& motion = document_.voice(*at_).motion;
  label_->setText(motion.kind == MotionKind::Keyframes ? tr("Key") : ownCount(motion) > 0 ? tr("Hop %1").arg(key + 1) : tr("To"));
  if (number_) number_->setValue(std::get<double>(far()));
  if (across_) across_->setValue(std::get<Point>(far()).x);
  if (down_) down_->setValue(std::get<Point>(far()).y);
  if (swatch_) swatch_->setColour(std::get<Colour>(far()));
}

}  // namespace oa::app
