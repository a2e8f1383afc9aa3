#include "widgets/motion_list.h"

#include <QLabel>
#include <QKeyEvent>
#include <QMenu>
#include <QPainter>
#include <QStyledItemDelegate>
#include <QVBoxLayout>
#include <algorithm>

#include "model/heard.h"
#include "widgets/curve_drawing.h"
#include "widgets/motion_pill.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {

class MotionDelegate : public QStyledItemDelegate {
 public:
  explicit MotionDelegate(MotionList& list) : QStyledItemDelegate(&list), list_(list) {}
  QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override { return {180, 44}; }
  void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    const auto row = static_cast<std::size_t>(index.row());
    if (row >= list_.motions_.size() || !list_.document_.valid(list_.motions_[row])) return;
    const ParamAddress at = list_.motions_[row];
    const Param param = list_.document_.voice(at);
    const Theme& t = Theme::now();
    const bool chosen = option.state & QStyle::State_Selected;
    p->save();
    p->setRenderHint(QPainter::Antialiasing);
    const QRectF card = QRectF(option.rect).adjusted(1, 2, -1, -2);
    p->setPen(QPen(chosen ? t.persimmon : t.line, chosen ? 1.6 : 1));
    p->setBrush(chosen ? t.card : t.paper);
    p->drawRoundedRect(card, 6, 6);
    drawItemFocus(*p, option, card, 6);
    p->setPen(t.ink);
    p->setFont(uiFont(12, 500));
    const double words = card.width() - 72;
    p->drawText(QRectF(card.left() + 10, card.top() + 4, words, 17), Qt::AlignLeft | Qt::AlignVCenter,
                p->fontMetrics().elidedText(index.data().toString(), Qt::ElideRight, static_cast<int>(words)));
    QString details = text(motionName(param.motion.kind));
    details[0] = details[0].toUpper();
    details += QObject::tr(" · %n lap(s)", nullptr, std::abs(param.motion.laps))
                   .replace(QStringLiteral("(s)"), std::abs(param.motion.laps) == 1 ? QString() : QStringLiteral("s"));
    if (param.motion.laps < 0) details += QObject::tr(" back");
    if (param.motion.kind == MotionKind::Follow)
      details = QObject::tr("Follow · %1 % later").arg(text(numberText(fract(-param.motion.start) * 100, 0)));
    else if (param.motion.start > 0)
      details += QObject::tr(" · from %1").arg(text(numberText(param.motion.start, 2)));
    p->setFont(uiFont(11));
    p->setPen(t.muted);
    p->drawText(QRectF(card.left() + 10, card.top() + 20, words, 16), Qt::AlignLeft | Qt::AlignVCenter,
                p->fontMetrics().elidedText(details, Qt::ElideRight, static_cast<int>(words)));
    p->setPen(QPen(t.lagoon, 1.5));
    p->setBrush(Qt::NoBrush);
    p->drawPath(motionPath(list_.document_.spec(at), param, QRectF(card.right() - 52, card.top() + 11, 42, card.height() - 22), 0, 1,
                           list_.document_.heard().levels()));
    p->restore();
  }

 private:
  MotionList& list_;
};

MotionList::MotionList(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(4, 8, 4, 8);
  column->setSpacing(4);
  heading_ = new QLabel(this);
  heading_->setObjectName(QStringLiteral("heading"));
  heading_->setTextFormat(Qt::PlainText);
  column->addWidget(heading_);
  list_ = new QListWidget(this);
  list_->setAccessibleName(tr("Motions of the layer"));
  list_->setItemDelegate(new MotionDelegate(*this));
  list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
  list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  column->addWidget(list_, 1);
  hint_ = new QLabel(tr("Nothing in this layer moves yet. Click the dash at the end of a value to set it moving."), this);
  hint_->setObjectName(QStringLiteral("muted"));
  hint_->setWordWrap(true);
  hint_->setAlignment(Qt::AlignTop);
  column->addWidget(hint_, 1);
  connect(list_, &QListWidget::currentRowChanged, this, [this](int row) {
    if (refreshing_ || row < 0 || row >= static_cast<int>(motions_.size())) return;
    chosen_ = motions_[static_cast<std::size_t>(row)];
    Q_EMIT chosenChanged();
  });
  list_->setContextMenuPolicy(Qt::CustomContextMenu);
  list_->setToolTip(tr("Delete takes a motion away"));
  connect(list_, &QListWidget::customContextMenuRequested, this, &MotionList::showMenu);
  list_->installEventFilter(this);
  connect(&document, &Document::changed, this, &MotionList::refresh);
  connect(&document, &Document::currentLayerChanged, this, &MotionList::refresh);
  refresh();
}

bool MotionList::eventFilter(QObject* watched, QEvent* event) {
  if (watched != list_ || event->type() != QEvent::KeyPress || static_cast<QKeyEvent*>(event)->key() != Qt::Key_Delete || !chosen_)
    return QWidget::eventFilter(watched, event);
  // Held down, it takes away one motion, and never the layer.
  if (!static_cast<QKeyEvent*>(event)->isAutoRepeat()) removeChosen();
  return true;
}

void MotionList::removeChosen() {
  if (chosen_ && document_.valid(*chosen_)) document_.removeMotion(ParamAddress(*chosen_));
}

void MotionList::showMenu(const QPoint& place) {
  if (!chosen_ || !document_.valid(*chosen_)) return;
  QMenu menu(this);
  fillAddMotionMenu(menu.addMenu(tr("Add a motion to this value")), document_, *chosen_);
  menu.addAction(tr("Take this motion away"), this, &MotionList::removeChosen);
  menu.exec(list_->viewport()->mapToGlobal(place));
}

void MotionList::choose(const ParamAddress& at) {
  chosen_ = at;
  refresh();
}

void MotionList::refresh() {
  std::vector<ParamAddress> motions;
  QStringList names;
  const Layer* layer = document_.layer();
  heading_->setText(layer ? tr("Motions of %1").arg(text(layer->name)) : tr("Motions"));
  if (layer) {
    const auto add = [&](const ParamAddress& at, const QString& owner) {
      const ParamSpec& spec = document_.spec(at);
      if (!spec.canMove()) return;
      ParamAddress voice = at;
      for (const int count = static_cast<int>(motionCount(document_.param(at))); voice.motion < count; ++voice.motion) {
        // One that is being written, or has lost what it followed, stays in sight, and so does one that is dragged through its base.
        const Motion& motion = document_.voice(voice).motion;
        const bool kept = motion.kind == MotionKind::Formula || motion.kind == MotionKind::Follow || (motion.moves() && chosen_ == voice);
        if (!kept && !reallyMoves(spec, document_.voice(voice))) continue;
        motions.push_back(voice);
        const QString which = count > 1 ? tr(" %1 of %2").arg(voice.motion + 1).arg(count) : QString();
        names << owner + QStringLiteral(" · ") + text(spec.label) + which;
      }
    };
    // The parameters of a step, and those of its items.
    const auto addStep = [&](const RecipeStep& step, int at, const QString& owner) {
      for (std::size_t i = 0; i < step.params.size(); ++i)
        if (isShown(step.spec->params, step.params, i)) add({layer->id, at, static_cast<int>(i)}, owner);
      for (std::size_t item = 0; item < step.items.size(); ++item)
        for (std::size_t i = 0; i < step.items[item].params.size(); ++i)
          if (isShown(step.spec->items->params, step.items[item].params, i))
            add({layer->id, at, static_cast<int>(i), step.items[item].id}, text(step.spec->items->single) + tr(" %1").arg(item + 1));
    };
    const Id l = document_.currentLayer();
    for (int s = 0; s < static_cast<int>(layer->recipe.size()); ++s)
      addStep(layer->recipe[static_cast<std::size_t>(s)], s, text(layer->recipe[static_cast<std::size_t>(s)].spec->title));
    const auto addTable = [&](int table, std::size_t count, const QString& owner) {
      for (int i = 0; i < static_cast<int>(count); ++i) add({l, table, i}, owner);
    };
    addTable(ParamAddress::kPlace, layer->place.size(), tr("Place"));
    if (layer->mask) {
      addStep(layer->mask->source, ParamAddress::kMaskSource, tr("Mask"));
      addTable(ParamAddress::kMask, layer->mask->params.size(), tr("Mask"));
    }
    add({l, ParamAddress::kOpacity, 0}, tr("Layer"));
  }
  refreshing_ = true;
  const bool same = motions == motions_ && list_->count() == names.size();
  motions_ = motions;
  if (!same) {
    list_->clear();
    list_->addItems(names);
  }
  // All items at once are shown by the first of them.
  std::optional<ParamAddress> shown = chosen_;
  const RecipeStep* step = chosen_ && chosen_->item == ParamAddress::kAllItems ? document_.step(chosen_->layer, chosen_->step) : nullptr;
  if (step && !step->items.empty()) shown->item = step->items.front().id;
  const auto found = shown ? std::find(motions_.begin(), motions_.end(), *shown) : motions_.end();
  std::optional<ParamAddress> chosen;
  if (found != motions_.end())
    chosen = *found;
  else if (!motions_.empty())
    chosen = motions_.front();
  list_->setCurrentRow(chosen ? static_cast<int>(std::find(motions_.begin(), motions_.end(), *chosen) - motions_.begin()) : -1);
  if (step && found != motions_.end()) chosen = chosen_;
  refreshing_ = false;
  list_->setVisible(!motions_.empty());
  hint_->setVisible(motions_.empty());
  list_->viewport()->update();
  chosen_ = chosen;
  Q_EMIT chosenChanged();
}

}  // namespace oa::app
