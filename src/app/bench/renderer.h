#pragma once

#include <QColor>
#include <QOpenGLFunctions_3_3_Core>
#include <QOpenGLShaderProgram>
#include <functional>
#include <memory>
#include <optional>
#include <vector>

#include "base/geometry.h"
#include "bench/point_batch.h"
#include "bench/scan_arrays.h"
#include "model/model.h"

namespace lostline::app {

/// A set of line pieces of one colour and width.
struct LineBatch {
  std::vector<std::pair<Vec3, Vec3>> segments;  ///< part coordinates, mm
  QColor colour;
  float width = 1.5F;   ///< pixels
  bool on_top = false;  ///< drawn over surfaces
};

/// How a surface is coloured per vertex.
enum class Paint { Plain, Tint, Deviation };

/// Draws scan, model and lines with OpenGL 3.3 core. All calls need the context current.
class Renderer : protected QOpenGLFunctions_3_3_Core {
 public:
  void initialise();
  void release();

  /// Uploads a scan's geometry; the reduced copy serves while the view moves. Null: none.
  void setScan(const ScanArrays* arrays);
  /// One number per scan vertex: with Paint::Tint a wash index (-1: clay, 100: picked; +8: with
  /// strokes, +16: stippled), with Paint::Deviation the distance in mm.
  void setScanValues(const std::vector<float>& values);
  /// Scans drawn beside it, quieter and without values.
  struct OtherScan {
    std::shared_ptr<const ScanArrays> arrays;
    float opacity;
  };
  void setOtherScans(const std::vector<OtherScan>& scans);
  /// A stretch of triangles in a colour of their own; an invalid colour is the model's.
  struct Coloured {
    std::size_t triangles;
    QColor colour;
    bool translucent = false;
    bool solid = true;  ///< encloses material: a clip plane shows its cut
  };
  void setModel(const model::Tessellation* tessellation, const std::vector<Coloured>& colours);
  /// Faces to be shaded over everything else; null for none.
  void setPreview(const model::Tessellation* preview);
  void setModelValues(const std::vector<float>& values);
  /// Batches that were given before are not uploaded again.
  void setPoints(const std::vector<std::shared_ptr<const PointBatch>>& batches);

  struct Frame {
    Eigen::Matrix4f view_projection;
    Eigen::Matrix3f view_rotation;
    Eigen::Matrix4f scan_to_part;  ///< rows as in Transform
    float width = 1, height = 1;
    float pixel_ratio = 1;
    bool moving = false;
    bool show_scan = true, show_model = true;
    bool scan_as_points = false;  ///< its vertices instead of its triangles
    Paint scan_paint = Paint::Plain, model_paint = Paint::Plain;
    float scan_opacity = 1, model_opacity = 1;
    float range = 0.3F, tolerance = 0.05F;  ///< of Paint::Deviation, mm
    const std::vector<LineBatch>* lines = nullptr;
    /// Normal and offset of a plane: what lies on its positive side is not drawn.
    std::optional<Eigen::Vector4f> clip;
    Eigen::Vector3f clip_centre = Eigen::Vector3f::Zero();  ///< of the cut of solids, and its reach
    float clip_reach = 0;
  };
  /// What draws a frame, piece by piece; it holds until something is set or released.
  using Pieces = std::vector<std::function<void()>>;
  [[nodiscard]] Pieces draw(const Frame& frame);
  /// Has what draws compiled for the buffer that is bound. Without a graphics card that happens at
  /// the first triangles that are drawn, and takes a tenth of a second.
  [[nodiscard]] Pieces warmUp();
  /// True where no graphics card draws.
  [[nodiscard]] bool software() const { return software_; }

 private:
  /// What is drawn at one go.
  struct Buffers {
    GLuint array = 0, vertices = 0, values = 0, indices = 0;
    GLsizei count = 0;
  };
  struct Surface {
    Buffers full;
    Buffers reduced;  ///< of few triangles and the vertices that they use, for a moving view
    std::vector<std::uint32_t> reduced_of;  ///< vertex of the full one that each of its stands for
    Eigen::Vector3f origin = Eigen::Vector3f::Zero();
    std::vector<Coloured> colours;  ///< empty: one colour
    float opacity = 1;
  };
  enum class Which { All, Opaque, Translucent, Solid };
  void uploadScan(Surface& surface, const ScanArrays& arrays);
  [[nodiscard]] static Eigen::Matrix4f placed(const Frame& frame, const Surface& surface);
  void upload(Buffers& buffers, const std::vector<float>& interleaved,
              const std::vector<std::uint32_t>& indices);
  void upload_values(const Buffers& buffers, const std::vector<float>& values);
  void drop(Buffers& buffers);
  void uploadModel(Surface& surface, const model::Tessellation* tessellation);
  void upload_values(Surface& surface, const std::vector<float>& values);
  void drop(Surface& surface);
  /// Triangles that follow one another in a surface and have one colour.
  struct Stretch {
    std::size_t first, count;
    QColor colour;
  };
  /// Those of a surface, none larger than a piece.
  [[nodiscard]] static std::vector<Stretch> stretchesOf(const Surface& surface, bool coarse,
                                                        const QColor& colour, Which which);
  /// How a surface is drawn.
  struct Manner {
    Eigen::Matrix4f placement = Eigen::Matrix4f::Identity();
    Paint paint = Paint::Plain;
    QColor colour = {};
    float opacity = 1;
    Which which = Which::All;
    bool points = false;  ///< corners instead of triangles
  };
  using SharedFrame = std::shared_ptr<const Frame>;
  void addSurface(Pieces& pieces, const SharedFrame& frame, const Surface& surface,
                  const Manner& manner);
  void addModel(Pieces& pieces, const SharedFrame& frame);
  /// What the shader of surfaces is told before triangles are drawn.
  void prepareSurface(const Frame& frame, const Manner& manner);
  enum class Layer { Whole, Depth, Front };
  void drawStretches(const Buffers& buffers, const std::vector<Stretch>& stretches, Layer layer,
                     GLenum what = GL_TRIANGLES);
  /// The cut of the model's solids by the clip plane, hatched as on a drawing: where a ray leaves
  /// more solids than it enters behind the plane, it looks into material.
  void drawCut(const SharedFrame& frame);
  void setClip(QOpenGLShaderProgram& program, const Frame& frame);
  void drawLines(const Frame& frame, bool on_top);
  /// All points, or an even share of them while the view moves.
  void addPoints(Pieces& pieces, const SharedFrame& frame);

  std::unique_ptr<QOpenGLShaderProgram> lit_;
  std::unique_ptr<QOpenGLShaderProgram> line_;
  bool software_ = false;
  Surface scan_, model_, preview_;
  std::vector<Surface> others_;
  struct Points {
    std::shared_ptr<const PointBatch> batch;
    Surface surface;  ///< without indices
  };
  void drawPoints(const Frame& frame, const Points& points, std::size_t first, std::size_t count);
  std::vector<Points> points_;
  GLuint line_array_ = 0, line_buffer_ = 0;
  GLuint cut_array_ = 0, cut_buffer_ = 0;
  GLuint scale_texture_ = 0;
};

}  // namespace lostline::app
