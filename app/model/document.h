// The scene being worked on: one place for its undo history, file name, dirty state and selection.
#pragma once

#include <QObject>
#include <QString>
#include <QUndoStack>
#include <functional>

#include "scene/scene.h"

namespace oa::app {

/// Which parameter: a layer, a step of its recipe (kOpacity: the layer's opacity), and the parameter's index.
struct ParamAddress {
  static constexpr int kOpacity = -1;
  int layer = 0;
  int step = 0;
  int param = 0;
  bool operator==(const ParamAddress&) const = default;
};

class Document : public QObject {
  Q_OBJECT
 public:
  explicit Document(QObject* parent = nullptr);

  [[nodiscard]] const Scene& scene() const { return scene_; }
  [[nodiscard]] QUndoStack& history() { return history_; }
  [[nodiscard]] QString path() const { return path_; }
  [[nodiscard]] bool dirty() const { return !history_.isClean() || neverSaved_; }
  /// Changes the scene as one undoable step, "Undo: <label>". Changes with the same non-empty `gesture`
  /// that follow one another are one step, until endGesture().
  void edit(const QString& label, const QString& gesture, const std::function<void(Scene&)>& change);
  /// An operation of core/edit on the layers: what it gives back is the layer that is current afterwards; undo brings back the
  /// one before. What it refuses is said by refused(), and false comes back.
  bool perform(const QString& label, const std::function<Result<int>(Scene&)>& operation, const QString& gesture = {});
  /// The same for operations whose result is no layer: the current one stays.
  bool performHere(const QString& label, const std::function<Result<int>(Scene&)>& operation);
  void endGesture() { ++gestureNumber_; }

  /// The colours that colour controls offer: the scene's palette, or where it has none the colours that are used.
  [[nodiscard]] std::vector<Colour> colours() const;

  /// Starts over with a scene, from a file (`path`) or a starter (no path).
  void reset(Scene scene, const QString& path);
  /// The same for work that was rescued: it is not saved yet.
  void resetUnsaved(Scene scene, const QString& path);
  /// Saves to `path` and takes it as the scene's own.
  Status save(const QString& path);

  [[nodiscard]] int currentLayer() const { return current_; }
  void setCurrentLayer(int index);
  [[nodiscard]] const Layer* layer() const;

  [[nodiscard]] static const ParamSpec& spec(const Scene& scene, const ParamAddress& at);
  [[nodiscard]] static const Param& param(const Scene& scene, const ParamAddress& at);
  [[nodiscard]] static Param& param(Scene& scene, const ParamAddress& at);
  [[nodiscard]] const ParamSpec& spec(const ParamAddress& at) const { return spec(scene_, at); }
  [[nodiscard]] const Param& param(const ParamAddress& at) const { return param(scene_, at); }
  [[nodiscard]] bool valid(const ParamAddress& at) const;

  /// "Sea fog · churn", for undo texts.
  [[nodiscard]] QString labelOf(const ParamAddress& at) const;
  void setBase(const ParamAddress& at, const Value& value, bool gesture);
  void setMotion(const ParamAddress& at, const Motion& motion, bool gesture);
  /// Asks for a part of a step (point 1, point 2, ...) to be shown on its card.
  void choosePart(int layer, int step, int part) { Q_EMIT partChosen(layer, step, part); }
  /// Asks for a motion's curve to be shown.
  void showMotion(const ParamAddress& at) { Q_EMIT motionShown(at); }

 Q_SIGNALS:
  /// `structure` is true when layers or steps came, went or moved, and not only values changed.
  void changed(bool structure);
  void currentLayerChanged();
  void fileChanged();  ///< path or dirty state
  void motionShown(const oa::app::ParamAddress& at);
  void partChosen(int layer, int step, int part);
  /// An operation could not be done; a sentence for the user.
  void refused(const QString& sentence);

 private:
  friend class SceneCommand;
  void apply(const Scene& scene, int current);
  void push(const QString& label, const QString& gesture, Scene after, int currentAfter);

  Scene scene_;
  QUndoStack history_;
  QString path_;
  bool neverSaved_ = false;
  int current_ = 0;
  int gestureNumber_ = 0;
  QString heldGesture_;  // the gesture that held_ was taken at the beginning of
  Param held_;
};

}  // namespace oa::app
