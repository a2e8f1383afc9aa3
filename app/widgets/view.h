// The picture: fitted or zoomed, looked at in several ways, with handles for what has a place in it.
#pragma once

#include <QImage>
#include <QWidget>
#include <optional>

#include "model/document.h"
#include "model/drawn_line.h"
#include "model/player.h"
#include "model/render_service.h"
#include "widgets/copy_handles.h"
#include "widgets/outline_handles.h"
#include "widgets/place_handles.h"
#include "widgets/way_handles.h"
#include "widgets/word_typing.h"

class QButtonGroup;
class QLabel;
class QSpinBox;
class QPushButton;
class QToolButton;

class QPainter;

namespace oa::app {

class Comparison;

enum class ViewMode { Picture, Seam, Wrap, SafeAreas };

class View : public QWidget {
  Q_OBJECT
 public:
  View(Document& document, RenderService& renderer, Player& player, QWidget* parent = nullptr);

  void setMode(ViewMode mode);
  [[nodiscard]] ViewMode mode() const { return mode_; }
  /// 0: as large as fits; else screen pixels for one pixel of the scene.
  void setZoom(double zoom);
  [[nodiscard]] double zoom() const;
  /// Handles for the place of whatever layer is current.
  void setPlacing(bool placing);
  [[nodiscard]] bool placing() const { return placing_; }
  /// What is taken hold of in the picture, where it lies now, whether or not it has been painted there.
  [[nodiscard]] PlaceHandles& place() { return syncPlace(), place_; }
  [[nodiscard]] const CopyHandles& copies() { return syncPlace(), copies_; }
  [[nodiscard]] WordTyping& typing() { return syncPlace(), typing_; }
  [[nodiscard]] const WayHandles& way() { return syncPlace(), way_; }
  /// The motion whose keyframes are taken hold of in the picture, where it is one of a place.
  void setMotion(const std::optional<ParamAddress>& at);
  /// The picture that is shown now.
  [[nodiscard]] const QImage& image() const { return image_; }
  /// Where the frame lies in this widget.
  [[nodiscard]] QRectF frameRect() const;
  /// Shows the other state of it where there is one.
  void setComparison(Comparison& comparison);
  /// Where the line between the two stands, as a share of the frame's width; it is dragged.
  [[nodiscard]] double split() const { return split_; }
  /// The next drag in the picture draws it where that is wanted; it is seen as long as it is there.
  void setDrawnLine(DrawnLine& line);
  /// The next click in the picture gives its colour to this value; Escape or another button calls it off.
  void pickColour(const ParamAddress& at);

 Q_SIGNALS:
  void modeChanged();
  void menuWanted(const QPoint& globalPlace);
  /// Somebody asks for what stands in front for judging: to add one, to show them or to hide them.
  void standInsWanted(const QPoint& globalPlace);
  /// A keyframe of that motion was taken hold of.
  void keyTaken(int key);

 protected:
  [[nodiscard]] QVariant inputMethodQuery(Qt::InputMethodQuery query) const override;
  bool event(QEvent* event) override;
  void inputMethodEvent(QInputMethodEvent* event) override;
  void focusOutEvent(QFocusEvent* event) override;
  void contextMenuEvent(QContextMenuEvent* event) override;
  void paintEvent(QPaintEvent*) override;
  void resizeEvent(QResizeEvent*) override;
  void wheelEvent(QWheelEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;

 private:
  static constexpr int kMargin = 14;
  static constexpr int kBars = 42;  // above and below the picture
  struct Handle {
    ParamAddress at;
    QPointF place;  // where it is drawn and taken hold of: at the rim, if its own place is out of sight
    QPointF own;
    std::optional<Colour> colour;  // of the item it belongs to
    const Grip* grip = nullptr;    // of numbers, angles and points in pixels
    QPointF from = {};             // what a grip is counted from
  };
  [[nodiscard]] std::vector<Handle> handles() const;
  [[nodiscard]] std::optional<Handle> gripOf(const RecipeStep& step, const ParamAddress& at) const;
  [[nodiscard]] Value grippedValue(const Handle& handle, QPointF to, bool inSteps) const;
  /// Whether something of the current layer is edited whose points or copies are taken hold of instead of its handles.
  [[nodiscard]] bool editsInPicture() const { return outline_.shown() || copies_.shown() || typing_.shown(); }
  bool typeWordsAt(QPointF at);
  bool typingAt(QPointF at);
  void askForSize();
  void showFrame(int frame);
  void syncPlace();
  [[nodiscard]] Affine toWidget(Id layer) const;
  [[nodiscard]] Affine handleMap(Id layer) const;
  /// The same for its place in its group.
  [[nodiscard]] Affine placeMap(Id layer) const;
  void paintHandles(QPainter& p);
  bool paintSkeleton(QPainter& p) const;
  void paintGrip(QPainter& p, const Handle& handle) const;
  void paintSeam(QPainter& p, const QRectF& frame);
  void paintCompared(QPainter& p, const QRectF& frame);
  /// Whether two pictures are shown with a line between them, and it lies here.
  [[nodiscard]] bool onSplit(QPointF place) const;
  void paintDrawnLine(QPainter& p, const QRectF& frame) const;
  void paintSafeAreas(QPainter& p, const QRectF& frame);
  void updateStatus();
  /// The colour of the picture at a place of this widget; transparent outside of the frame.
  [[nodiscard]] QColor colourAt(QPointF place) const;
  void endPicking();
  /// A place of this widget in shares of the frame.
  [[nodiscard]] Point shareAt(QPointF place) const;

  Document& document_;
  RenderService& renderer_;
  Player& player_;
  Comparison* comparison_ = nullptr;
  DrawnLine* line_ = nullptr;
  PlaceHandles place_;
  OutlineHandles outline_;
  CopyHandles copies_;
  WordTyping typing_;
  WayHandles way_;
  bool placing_ = false;
  QImage image_;
  Generation shown_ = 0;                 // what image_ is of
  QImage difference_;                    // of the two frames at the joint, by their keys
  std::optional<ParamAddress> picking_;  // the value that the next click gives a colour to
  std::pair<qint64, qint64> differenceOf_;
  ViewMode mode_ = ViewMode::Picture;
  double zoom_ = 0;
  QPointF pan_;
  QPointF press_;
  QPointF pointer_;
  QString pointedAt_;  // the name of the handle that the pointer is over
  QPointF grab_;       // from the pointer to the own place of the handle it holds
  QPointF pressPan_;
  int dragged_ = -1;
  bool panning_ = false;
  bool splitting_ = false;
  double split_ = 0.5;
  QButtonGroup* modes_;
  QPushButton* standIns_;
  QLabel* fit_;
  void showLaps();
  QSpinBox* lap_;
  QLabel* status_;
};

}  // namespace oa::app
