#include "bench/renderer.h"

#include <algorithm>
#include <array>

#include "bench/gl_values.h"
#include "bench/shaders.h"
#include "look/theme.h"

namespace lostline::app {
namespace {

constexpr float kTranslucent = 0.35F;  // opacity of what is shown so
/// Triangles of a piece: about 15 ms where the processor draws them with four samples a pixel.
constexpr std::size_t kPiece = 20000;
constexpr float kPointSize = 2;  // pixels, of a scan that is drawn as points

}  // namespace

void Renderer::initialise() {
  initializeOpenGLFunctions();
  lit_ = std::make_unique<QOpenGLShaderProgram>();
  lit_->addShaderFromSourceCode(QOpenGLShader::Vertex, kLitVertex);
  lit_->addShaderFromSourceCode(QOpenGLShader::Fragment, kLitFragment);
  lit_->link();
  line_ = std::make_unique<QOpenGLShaderProgram>();
  line_->addShaderFromSourceCode(QOpenGLShader::Vertex, kLineVertex);
  line_->addShaderFromSourceCode(QOpenGLShader::Fragment, kLineFragment);
  line_->link();
  const QByteArray name(reinterpret_cast<const char*>(glGetString(GL_RENDERER)));
  software_ = name.contains("llvmpipe") || name.contains("softpipe") || name.contains("SWR");
  glGenVertexArrays(1, &line_array_);
  glGenBuffers(1, &line_buffer_);
  glGenVertexArrays(1, &cut_array_);
  glGenBuffers(1, &cut_buffer_);
  glGenTextures(1, &scale_texture_);
}

void Renderer::release() {
  drop(scan_);
  drop(model_);
  drop(preview_);
  for (Surface& s : others_) drop(s);
  for (Points& p : points_) drop(p.surface);
  if (line_array_ != 0) glDeleteVertexArrays(1, &line_array_);
  if (line_buffer_ != 0) glDeleteBuffers(1, &line_buffer_);
  if (cut_array_ != 0) glDeleteVertexArrays(1, &cut_array_);
  if (cut_buffer_ != 0) glDeleteBuffers(1, &cut_buffer_);
  if (scale_texture_ != 0) glDeleteTextures(1, &scale_texture_);
  lit_.reset();
  line_.reset();
}

void Renderer::drop(Buffers& b) {
  if (b.array != 0) glDeleteVertexArrays(1, &b.array);
  for (const GLuint* buffer : {&b.vertices, &b.values, &b.indices}) {
    if (*buffer != 0) glDeleteBuffers(1, buffer);
  }
  b = {};
}

void Renderer::drop(Surface& s) {
  drop(s.full);
  drop(s.reduced);
  s = {};
}

void Renderer::upload(Buffers& b, const std::vector<float>& interleaved,
                      const std::vector<std::uint32_t>& indices) {
  glGenVertexArrays(1, &b.array);
  glBindVertexArray(b.array);
  glGenBuffers(1, &b.vertices);
  glBindBuffer(GL_ARRAY_BUFFER, b.vertices);
  glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(interleaved.size() * sizeof(float)),
               interleaved.data(), GL_STATIC_DRAW);
  glEnableVertexAttribArray(0);
  glVertexAttribPointer(0, 3, GL_FLOAT, GL_FALSE, 24, nullptr);
  glEnableVertexAttribArray(1);
  glVertexAttribPointer(1, 3, GL_FLOAT, GL_FALSE, 24, reinterpret_cast<const void*>(12));
  glGenBuffers(1, &b.indices);
  glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, b.indices);
  glBufferData(GL_ELEMENT_ARRAY_BUFFER,
               static_cast<GLsizeiptr>(indices.size() * sizeof(std::uint32_t)), indices.data(),
               GL_STATIC_DRAW);
  b.count = static_cast<GLsizei>(indices.size());
  glGenBuffers(1, &b.values);
  glBindVertexArray(0);
}

void Renderer::upload_values(const Buffers& b, const std::vector<float>& values) {
  if (b.array == 0) return;
  glBindVertexArray(b.array);
  glBindBuffer(GL_ARRAY_BUFFER, b.values);
  glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(values.size() * sizeof(float)),
               values.data(), GL_DYNAMIC_DRAW);
  glEnableVertexAttribArray(2);
  glVertexAttribPointer(2, 1, GL_FLOAT, GL_FALSE, 4, nullptr);
  glBindVertexArray(0);
}

void Renderer::upload_values(Surface& s, const std::vector<float>& values) {
  upload_values(s.full, values);
  if (s.reduced.array == 0) return;
  std::vector<float> some;
  some.reserve(s.reduced_of.size());
  for (const std::uint32_t v : s.reduced_of) some.push_back(values[v]);
  upload_values(s.reduced, some);
}

void Renderer::setScan(const ScanArrays* arrays) {
  drop(scan_);
  if (arrays != nullptr) uploadScan(scan_, *arrays);
}

void Renderer::setOtherScans(const std::vector<OtherScan>& scans) {
  for (Surface& s : others_) drop(s);
  others_.assign(scans.size(), {});
  for (std::size_t i = 0; i < scans.size(); ++i) {
    uploadScan(others_[i], *scans[i].arrays);
    others_[i].opacity = scans[i].opacity;
  }
}

void Renderer::uploadScan(Surface& surface, const ScanArrays& arrays) {
  surface.origin = arrays.origin;
  upload(surface.full, arrays.vertices, arrays.indices);
  if (!arrays.reduced_indices.empty()) {
    upload(surface.reduced, arrays.reduced_vertices, arrays.reduced_indices);
    surface.reduced_of = arrays.reduced_of;
  }
  if (arrays.translucent > 0)
    surface.colours = {{arrays.opaque, QColor()}, {arrays.translucent, QColor(), true}};
  upload_values(surface, std::vector<float>(arrays.vertices.size() / 6, -1.0F));
}

void Renderer::setScanValues(const std::vector<float>& values) { upload_values(scan_, values); }

void Renderer::setModel(const model::Tessellation* tessellation,
                        const std::vector<Coloured>& colours) {
  drop(model_);
  uploadModel(model_, tessellation);
  model_.colours = colours;
}

void Renderer::setPreview(const model::Tessellation* preview) {
  drop(preview_);
  uploadModel(preview_, preview);
}

void Renderer::uploadModel(Surface& surface, const model::Tessellation* tessellation) {
  if (tessellation == nullptr || tessellation->mesh.triangles.empty()) return;
  const scan::Mesh& mesh = tessellation->mesh;
  std::vector<float> interleaved;
  for (std::size_t i = 0; i < mesh.vertices.size(); ++i) {
    for (int k = 0; k < 3; ++k) interleaved.push_back(static_cast<float>(mesh.vertices[i][k]));
    for (int k = 0; k < 3; ++k)
      interleaved.push_back(static_cast<float>(tessellation->normals[i][k]));
  }
  std::vector<std::uint32_t> indices;
  for (const scan::Triangle& t : mesh.triangles) indices.insert(indices.end(), t.begin(), t.end());
  upload(surface.full, interleaved, indices);
  upload_values(surface, std::vector<float>(mesh.vertices.size(), -1.0F));
}

void Renderer::setModelValues(const std::vector<float>& values) { upload_values(model_, values); }

void Renderer::prepareSurface(const Frame& frame, const Manner& manner) {
  lit_->bind();
  setClip(*lit_, frame);
  lit_->setUniformValue("placement", qt(manner.placement));
  lit_->setUniformValue("view_projection", qt(frame.view_projection));
  QMatrix3x3 rotation;
  for (int r = 0; r < 3; ++r) {
    for (int c = 0; c < 3; ++c) rotation(r, c) = frame.view_rotation(r, c);
  }
  lit_->setUniformValue("view_rotation", rotation);
  lit_->setUniformValue("paint", static_cast<int>(manner.paint));
  lit_->setUniformValue("as_points", manner.points);
  if (manner.points) glPointSize(kPointSize * frame.pixel_ratio);
  lit_->setUniformValue("picked", rgb(QColor(0xDD, 0x86, 0x74)));
  QVector3D washes[kWashes];
  for (int i = 0; i < kWashes; ++i) washes[i] = rgb(region_wash(i));
  lit_->setUniformValueArray("washes", washes, kWashes);
  lit_->setUniformValue("range", frame.range);
  lit_->setUniformValue("tolerance", frame.tolerance);
  lit_->setUniformValue("opacity", manner.opacity);
  lit_->setUniformValue("pixel_ratio", frame.pixel_ratio);
  lit_->setUniformValue("scale", 0);
  if (manner.paint == Paint::Deviation) {
    std::vector<std::uint8_t> texels;
    for (int i = 0; i < 512; ++i) {
      const QColor c = deviation_colour((i + 0.5) / 256.0 - 1.0,
                                        static_cast<double>(frame.tolerance / frame.range));
      texels.insert(texels.end(),
                    {static_cast<std::uint8_t>(c.red()), static_cast<std::uint8_t>(c.green()),
                     static_cast<std::uint8_t>(c.blue())});
    }
    glActiveTexture(GL_TEXTURE0);
    glBindTexture(GL_TEXTURE_1D, scale_texture_);
    glPixelStorei(GL_UNPACK_ALIGNMENT, 1);
    glTexImage1D(GL_TEXTURE_1D, 0, GL_RGB8, 512, 0, GL_RGB, GL_UNSIGNED_BYTE, texels.data());
    glTexParameteri(GL_TEXTURE_1D, GL_TEXTURE_MIN_FILTER, GL_LINEAR);
    glTexParameteri(GL_TEXTURE_1D, GL_TEXTURE_MAG_FILTER, GL_LINEAR);
    glTexParameteri(GL_TEXTURE_1D, GL_TEXTURE_WRAP_S, GL_CLAMP_TO_EDGE);
  }
}

std::vector<Renderer::Stretch> Renderer::stretchesOf(const Surface& s, bool coarse,
                                                     const QColor& colour, Which which) {
  std::vector<Stretch> stretches;
  const auto add = [&](std::size_t first, std::size_t count, const QColor& c) {
    for (std::size_t at = 0; at < count; at += kPiece)
      stretches.push_back({first + at, std::min(kPiece, count - at), c});
  };
  if (coarse || s.colours.empty()) {
    if (which != Which::Translucent)
      add(0, static_cast<std::size_t>(coarse ? s.reduced.count : s.full.count) / 3, colour);
    return stretches;
  }
  std::size_t first = 0;
  for (const Coloured& stretch : s.colours) {
    const std::size_t at = std::exchange(first, first + stretch.triangles);
    if ((which == Which::Opaque && stretch.translucent) ||
        (which == Which::Translucent && !stretch.translucent) ||
        (which == Which::Solid && !stretch.solid))
      continue;
    add(at, stretch.triangles, stretch.colour.isValid() ? stretch.colour : colour);
  }
  return stretches;
}

void Renderer::drawStretches(const Buffers& buffers, const std::vector<Stretch>& stretches,
                             Layer layer, GLenum what) {
  glBindVertexArray(buffers.array);
  if (layer == Layer::Depth) glColorMask(GL_FALSE, GL_FALSE, GL_FALSE, GL_FALSE);
  if (layer == Layer::Front) {
    glDepthFunc(GL_LEQUAL);
    glEnable(GL_BLEND);
    glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ONE, GL_ONE_MINUS_SRC_ALPHA);
  }
  for (const Stretch& s : stretches) {
    lit_->setUniformValue("colour", rgb(s.colour));
    // An offset into the buffer goes by the name of a pointer in this call.
    // NOLINTNEXTLINE(performance-no-int-to-ptr)
    const auto* offset = reinterpret_cast<const void*>(3 * s.first * sizeof(std::uint32_t));
    glDrawElements(what, static_cast<GLsizei>(3 * s.count), GL_UNSIGNED_INT, offset);
  }
  if (layer == Layer::Depth) glColorMask(GL_TRUE, GL_TRUE, GL_TRUE, GL_TRUE);
  if (layer == Layer::Front) {
    glDisable(GL_BLEND);
    glDepthFunc(GL_LESS);
  }
  glBindVertexArray(0);
}

void Renderer::addSurface(Pieces& pieces, const SharedFrame& frame, const Surface& s,
                          const Manner& manner) {
  if (s.full.array == 0) return;
  const bool coarse = frame->moving && s.reduced.count > 0;
  const Buffers buffers = coarse ? s.reduced : s.full;
  std::vector<std::vector<Stretch>> parts;
  std::size_t held = kPiece;
  for (const Stretch& stretch : stretchesOf(s, coarse, manner.colour, manner.which)) {
    if (held + stretch.count > kPiece) {
      parts.emplace_back();
      held = 0;
    }
    parts.back().push_back(stretch);
    held += stretch.count;
  }
  const auto add = [&](Layer layer) {
    for (const std::vector<Stretch>& part : parts) {
      pieces.emplace_back([this, frame, manner, buffers, part, layer] {
        prepareSurface(*frame, manner);
        drawStretches(buffers, part, layer, manner.points ? GL_POINTS : GL_TRIANGLES);
        lit_->release();
      });
    }
  };
  if (manner.opacity < 0.999F) {
    // Only the front layer shows through: depth first, then colour where it is equal.
    add(Layer::Depth);
    add(Layer::Front);
  } else {
    add(Layer::Whole);
  }
}

void Renderer::drawLines(const Frame& frame, bool on_top) {
  if (frame.lines == nullptr) return;
  line_->bind();
  setClip(*line_, frame);
  line_->setUniformValue("view_projection", qt(frame.view_projection));
  line_->setUniformValue("viewport", QVector2D(frame.width, frame.height));
  glBindVertexArray(line_array_);
  glBindBuffer(GL_ARRAY_BUFFER, line_buffer_);
  glEnable(GL_BLEND);
  glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ONE, GL_ONE_MINUS_SRC_ALPHA);
  for (const LineBatch& batch : *frame.lines) {
    if (batch.on_top != on_top || batch.segments.empty()) continue;
    std::vector<float> data;
    data.reserve(6 * batch.segments.size());
    for (const auto& [a, b] : batch.segments) {
      for (int k = 0; k < 3; ++k) data.push_back(static_cast<float>(a[k]));
      for (int k = 0; k < 3; ++k) data.push_back(static_cast<float>(b[k]));
    }
    glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(data.size() * sizeof(float)), data.data(),
                 GL_STREAM_DRAW);
    for (GLuint i = 0; i < 2; ++i) {
      glEnableVertexAttribArray(i);
      // An offset into the buffer goes by the name of a pointer in this call.
      // NOLINTNEXTLINE(performance-no-int-to-ptr)
      const auto* offset = reinterpret_cast<const void*>(static_cast<std::uintptr_t>(12 * i));
      glVertexAttribPointer(i, 3, GL_FLOAT, GL_FALSE, 24, offset);
      glVertexAttribDivisor(i, 1);
    }
    line_->setUniformValue("width", batch.width * frame.pixel_ratio);
    line_->setUniformValue("lift", on_top ? 0.0F : 2e-4F);
    line_->setUniformValue("colour",
                           QVector4D(rgb(batch.colour), static_cast<float>(batch.colour.alphaF())));
    glDrawArraysInstanced(GL_TRIANGLE_STRIP, 0, 4, static_cast<GLsizei>(batch.segments.size()));
  }
  glDisable(GL_BLEND);
  glBindVertexArray(0);
  line_->release();
}

Eigen::Matrix4f Renderer::placed(const Frame& frame, const Surface& surface) {
  Eigen::Matrix4f placement = frame.scan_to_part;
  placement.topRightCorner<3, 1>() += frame.scan_to_part.topLeftCorner<3, 3>() * surface.origin;
  return placement;
}

void Renderer::setClip(QOpenGLShaderProgram& program, const Frame& frame) {
  const Eigen::Vector4f clip = frame.clip.value_or(Eigen::Vector4f(0, 0, 0, -1));
  program.setUniformValue("clip", QVector4D(clip.x(), clip.y(), clip.z(), clip.w()));
}

void Renderer::addModel(Pieces& pieces, const SharedFrame& frame) {
  Manner manner;
  manner.paint = frame->model_paint;
  manner.colour = QColor(0x9F, 0xB0, 0xBE);
  manner.opacity = frame->model_opacity;
  manner.which = Which::Opaque;
  addSurface(pieces, frame, model_, manner);
  if (frame->clip && model_.full.array != 0) pieces.emplace_back([this, frame] { drawCut(frame); });
  if (std::any_of(model_.colours.begin(), model_.colours.end(),
                  [](const Coloured& c) { return c.translucent; })) {
    manner.opacity *= kTranslucent;
    manner.which = Which::Translucent;
    addSurface(pieces, frame, model_, manner);
  }
}

void Renderer::drawCut(const SharedFrame& shared) {
  const Frame& frame = *shared;
  glEnable(GL_STENCIL_TEST);
  glClearStencil(0);
  glClear(GL_STENCIL_BUFFER_BIT);
  glColorMask(GL_FALSE, GL_FALSE, GL_FALSE, GL_FALSE);
  glDepthMask(GL_FALSE);
  glDisable(GL_DEPTH_TEST);
  glStencilFunc(GL_ALWAYS, 0, 0xFF);
  glStencilOpSeparate(GL_FRONT, GL_KEEP, GL_KEEP, GL_DECR_WRAP);
  glStencilOpSeparate(GL_BACK, GL_KEEP, GL_KEEP, GL_INCR_WRAP);
  Manner solids;
  solids.which = Which::Solid;
  Pieces walls;
  addSurface(walls, shared, model_, solids);
  for (const auto& wall : walls) wall();
  glColorMask(GL_TRUE, GL_TRUE, GL_TRUE, GL_TRUE);
  glDepthMask(GL_TRUE);
  glEnable(GL_DEPTH_TEST);
  glStencilFunc(GL_NOTEQUAL, 0, 0xFF);
  glStencilOp(GL_KEEP, GL_KEEP, GL_KEEP);
  // The plane itself, far enough all round.
  const Eigen::Vector3f n = frame.clip->head<3>();
  const Eigen::Vector3f u = n.unitOrthogonal() * frame.clip_reach;
  const Eigen::Vector3f v = n.cross(u);
  const Eigen::Vector3f c =
      frame.clip_centre - n * (n.dot(frame.clip_centre) + frame.clip->w()) - 1e-5F * u.norm() * n;
  std::vector<float> data;
  for (const Eigen::Vector3f& corner : {Eigen::Vector3f(c - u - v), Eigen::Vector3f(c + u - v),
                                        Eigen::Vector3f(c - u + v), Eigen::Vector3f(c + u + v)}) {
    for (int k = 0; k < 3; ++k) data.push_back(corner[k]);
    for (int k = 0; k < 3; ++k) data.push_back(n[k]);
    data.push_back(-1);
  }
  glBindVertexArray(cut_array_);
  glBindBuffer(GL_ARRAY_BUFFER, cut_buffer_);
  glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(data.size() * sizeof(float)), data.data(),
               GL_STREAM_DRAW);
  const std::array<std::pair<GLint, std::uintptr_t>, 3> parts{{{3, 0}, {3, 12}, {1, 24}}};
  for (GLuint i = 0; i < parts.size(); ++i) {
    glEnableVertexAttribArray(i);
    // An offset into the buffer goes by the name of a pointer in this call.
    // NOLINTNEXTLINE(performance-no-int-to-ptr)
    const auto* offset = reinterpret_cast<const void*>(parts[i].second);
    glVertexAttribPointer(i, parts[i].first, GL_FLOAT, GL_FALSE, 28, offset);
  }
  lit_->bind();
  setClip(*lit_, frame);
  lit_->setUniformValue("placement", QMatrix4x4());
  lit_->setUniformValue("view_projection", qt(frame.view_projection));
  lit_->setUniformValue("paint", 3);
  lit_->setUniformValue("pixel_ratio", frame.pixel_ratio);
  lit_->setUniformValue("colour", rgb(QColor(0xC9, 0xD2, 0xDA)));
  glDrawArrays(GL_TRIANGLE_STRIP, 0, 4);
  lit_->release();
  glBindVertexArray(0);
  glDisable(GL_STENCIL_TEST);
}

Renderer::Pieces Renderer::warmUp() {
  struct Speck {
    Surface surface;  // without an area: nothing of it is seen
    std::vector<LineBatch> lines{{{{Vec3::Zero(), Vec3::Zero()}}, role::ink, 1}};
    Frame frame;
  };
  const auto speck = std::make_shared<Speck>();
  Pieces pieces;
  pieces.emplace_back([this, speck] {
    upload(speck->surface.full, std::vector<float>(18, 0.0F), {0, 1, 2});
    upload_values(speck->surface, {-1.0F, -1.0F, -1.0F});
    speck->frame.view_projection.setIdentity();
    speck->frame.view_rotation.setIdentity();
    speck->frame.lines = &speck->lines;
    glEnable(GL_DEPTH_TEST);
    glDepthFunc(GL_LESS);
    glEnable(GL_MULTISAMPLE);
  });
  for (const Layer layer : {Layer::Whole, Layer::Depth, Layer::Front}) {
    pieces.emplace_back([this, speck, layer] {
      prepareSurface(speck->frame, {});
      drawStretches(speck->surface.full, {{0, 1, role::ink}}, layer);
      lit_->release();
    });
  }
  pieces.emplace_back([this, speck] { drawLines(speck->frame, false); });
  pieces.emplace_back([this, speck] { drop(speck->surface); });
  return pieces;
}

Renderer::Pieces Renderer::draw(const Frame& drawn) {
  const auto frame = std::make_shared<const Frame>(drawn);
  glEnable(GL_DEPTH_TEST);
  glDepthFunc(GL_LESS);
  glEnable(GL_MULTISAMPLE);
  Pieces pieces;
  const bool scan_first = frame->scan_opacity >= 0.999F;
  const bool translucent = scan_.colours.size() > 1;
  const auto add_scan = [&](float opacity, Which which) {
    addSurface(pieces, frame, scan_,
               {placed(*frame, scan_), frame->scan_paint, QColor(0xB9, 0xB4, 0xAA), opacity, which,
                frame->scan_as_points});
  };
  if (frame->show_scan && scan_first) add_scan(1, translucent ? Which::Opaque : Which::All);
  if (frame->show_scan) {
    for (const Surface& other : others_)
      addSurface(pieces, frame, other,
                 {placed(*frame, other), Paint::Tint, QColor(0xD3, 0xCD, 0xBF),
                  0.55F * other.opacity, Which::All, frame->scan_as_points});
  }
  if (frame->show_model) addModel(pieces, frame);
  addPoints(pieces, frame);
  pieces.emplace_back([this, frame] { drawLines(*frame, false); });
  if (frame->show_scan && !scan_first)
    add_scan(frame->scan_opacity, translucent ? Which::Opaque : Which::All);
  if (frame->show_scan && translucent)
    add_scan(kTranslucent * frame->scan_opacity, Which::Translucent);
  if (preview_.full.array != 0) {
    // In front of everything, but in order among themselves: the walls of a pocket show too.
    pieces.emplace_back([this] { glClear(GL_DEPTH_BUFFER_BIT); });
    addSurface(pieces, frame, preview_,
               {Eigen::Matrix4f::Identity(), Paint::Plain, role::red_pencil, 0.42F, Which::All});
  }
  pieces.emplace_back([this, frame] {
    glDisable(GL_DEPTH_TEST);
    drawLines(*frame, true);
    glEnable(GL_DEPTH_TEST);
  });
  return pieces;
}

}  // namespace lostline::app
