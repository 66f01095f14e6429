// SPDX-License-Identifier: GPL-3.0-or-later
#include "tether/connection.h"

#include "base/atomic_file.h"
#include "base/phrase.h"
#include "tether/call_thread.h"

#include <algorithm>
#include <cstdlib>
#include <cstring>
#include <fcntl.h>
#include <unistd.h>

namespace ml {
namespace {

constexpr int kDeepestFolder = 6;
constexpr std::size_t kMostFiles = 200000;
constexpr const char* kStoreFull = "PTP Event 400a"; ///< As the library words an event that it passes on.
constexpr const char* kNetworkModel = "PTP/IP Camera";

/// Lists that free themselves.
struct NameList {
  const GPhoto& g;
  CameraList* list = nullptr;
  explicit NameList(const GPhoto& library) : g(library) { g.gp_list_new(&list); }
  ~NameList() { g.gp_list_free(list); }
  NameList(const NameList&) = delete;
  NameList& operator=(const NameList&) = delete;
  [[nodiscard]] std::string name(int i) const {
    const char* text = nullptr;
    return g.gp_list_get_name(list, i, &text) >= GP_OK && text ? text : "";
  }
  [[nodiscard]] std::string value(int i) const {
    const char* text = nullptr;
    return g.gp_list_get_value(list, i, &text) >= GP_OK && text ? text : "";
  }
};

struct Ports {
  const GPhoto& g;
  GPPortInfoList* list = nullptr;
  explicit Ports(const GPhoto& library) : g(library) {
    g.gp_port_info_list_new(&list);
    g.gp_port_info_list_load(list);
  }
  ~Ports() { g.gp_port_info_list_free(list); }
  Ports(const Ports&) = delete;
  Ports& operator=(const Ports&) = delete;
};

struct Models {
  const GPhoto& g;
  CameraAbilitiesList* list = nullptr;
  Models(const GPhoto& library, GPContext* context) : g(library) {
    g.gp_abilities_list_new(&list);
    g.gp_abilities_list_load(list, context);
  }
  ~Models() { g.gp_abilities_list_free(list); }
  Models(const Models&) = delete;
  Models& operator=(const Models&) = delete;
};

bool lost(int code) {
  return code == GP_ERROR_IO || code == GP_ERROR_TIMEOUT || code == GP_ERROR_IO_READ || code == GP_ERROR_IO_WRITE ||
         code == GP_ERROR_IO_USB_FIND || code == GP_ERROR_IO_UPDATE || code == GP_ERROR_IO_INIT ||
         code == GP_ERROR_UNKNOWN_PORT;
}

std::string widgetText(const GPhoto& g, CameraWidget* widget, CameraWidgetType type) {
  if (type == GP_WIDGET_TOGGLE || type == GP_WIDGET_DATE) {
    int value = 0;
    return g.gp_widget_get_value(widget, &value) >= GP_OK ? std::to_string(value) : "";
  }
  if (type == GP_WIDGET_RANGE) {
    float value = 0;
    if (g.gp_widget_get_value(widget, &value) < GP_OK) return "";
    std::string text = std::to_string(value);
    return text.substr(0, text.find_last_not_of('0') + (text.find_last_not_of('0') == text.find('.') ? 0 : 1));
  }
  const char* value = nullptr;
  return g.gp_widget_get_value(widget, &value) >= GP_OK && value ? value : "";
}

Result<std::vector<FoundCamera>> detect() {
  const auto library = GPhoto::find();
  if (!library) return passOn(library.error());
  const GPhoto& g = **library;
  const std::lock_guard lock(GPhoto::opening());
  GPContext* context = g.gp_context_new();
  std::vector<FoundCamera> found;
  {
    const Ports ports(g);
    const Models models(g, context);
    const NameList list(g);
    g.gp_abilities_list_detect(models.list, ports.list, list.list, context);
    for (int i = 0; i < g.gp_list_count(list.list); ++i)
      // Network cameras cannot be seen from here; their entry names none.
      if (const auto port = list.value(i); port.starts_with("usb:")) found.push_back({list.name(i), port});
  }
  g.gp_context_unref(context);
  return found;
}

bool isGroup(CameraWidgetType type) {
  return type == GP_WIDGET_WINDOW || type == GP_WIDGET_SECTION;
}

} // namespace

Result<std::string> portOf(const std::string& address) {
  const auto wrong = [&] {
    return fail(ErrorCode::InvalidArgument,
                phrase("`{}` is no camera's address; use for instance 192.168.1.20, 192.168.1.20:15740 or usb:001,004 "
                       "(`mellow-lantern-cli cameras` lists what is connected).",
                       address));
  };
  if (address.empty() || address.find_first_of(" \t\n/") != std::string::npos) return wrong();
  if (address.starts_with("usb:")) return address;
  std::string host = address.starts_with("ptpip:") ? address.substr(6) : address;
  if (host.empty()) return wrong();
  const auto colons = std::count(host.begin(), host.end(), ':');
  if (colons > 2) return wrong();
  // The library takes no port, or one for commands and one for events.
  if (colons == 1) host += host.substr(host.find(':'));
  for (auto at = host.find(':'); at != std::string::npos; at = host.find(':', at + 1)) {
    const std::string number = host.substr(at + 1, host.find(':', at + 1) - at - 1);
    if (number.empty() || number.size() > 5 || number.find_first_not_of("0123456789") != std::string::npos ||
        std::stoi(number) > 65535)
      return wrong();
  }
  return "ptpip:" + host;
}

Result<std::vector<FoundCamera>> findCameras() {
  constexpr std::chrono::seconds kLimit{20};
  auto found = CallThread({}).call(kLimit, detect);
  if (!found)
    return fail(
        ErrorCode::CameraGone,
        phrase("Looking for cameras took too long and was given up; unplug the camera, plug it in and look again."));
  return std::move(*found);
}

Result<std::unique_ptr<Connection>> Connection::open(const std::string& port, const std::string& model) {
  const auto library = GPhoto::find();
  if (!library) return passOn(library.error());
  std::unique_ptr<Connection> made(new Connection(**library));
  if (auto begun = made->begin(port, model); !begun) return passOn(begun.error());
  return made;
}

Result<void> Connection::begin(const std::string& port, const std::string& model) {
  std::string wanted = model;
  if (wanted.empty() && port.starts_with("ptpip:")) wanted = kNetworkModel;
  if (wanted.empty()) {
    const auto found = detect();
    if (!found) return passOn(found.error());
    const auto there = std::find_if(found->begin(), found->end(), [&](const FoundCamera& c) { return c.port == port; });
    if (there == found->end())
      return fail(ErrorCode::CameraGone,
                  phrase("There is no camera at {}; switch it on, plug it in again and look what is connected.", port));
    wanted = there->model;
  }
  const std::lock_guard lock(GPhoto::opening());
  context_ = g_.gp_context_new();
  int code = g_.gp_camera_new(&camera_);
  const Ports ports(g_);
  const Models models(g_, context_);
  if (const int at = g_.gp_abilities_list_lookup_model(models.list, wanted.c_str()); code >= GP_OK && at >= 0) {
    CameraAbilities abilities{};
    g_.gp_abilities_list_get_abilities(models.list, at, &abilities);
    g_.gp_camera_set_abilities(camera_, abilities);
    hasPreview_ = abilities.operations & GP_OPERATION_CAPTURE_PREVIEW;
  } else {
    return fail(ErrorCode::CameraRefused,
                phrase("The camera library knows no \"{}\"; see docs/cameras.md how to report it.", wanted));
  }
  const int at = g_.gp_port_info_list_lookup_path(ports.list, port.c_str());
  GPPortInfo info{};
  if (at < 0 || g_.gp_port_info_list_get_info(ports.list, at, &info) < GP_OK)
    return fail(
        ErrorCode::CameraRefused,
        phrase(
            "The camera library cannot reach {}; it may lack its part for this connection (package libgphoto2-port12).",
            port));
  g_.gp_camera_set_port_info(camera_, info);
  code = g_.gp_camera_init(camera_, context_);
  if (code < GP_OK) return failed(code, phrase("opening it at {}", port));
  model_ = wanted;
  return {};
}

Connection::~Connection() {
  if (camera_) {
    // The library closes standard input (CallThread); where its thread could not be set apart, it is put back.
    const int input = ::fcntl(STDIN_FILENO, F_DUPFD_CLOEXEC, 3);
    g_.gp_camera_exit(camera_, context_);
    g_.gp_camera_unref(camera_);
    if (input >= 0) {
      ::dup2(input, STDIN_FILENO);
      ::close(input);
    }
  }
  if (context_) g_.gp_context_unref(context_);
}

/// The library's codes do not tell a camera that says no from one that is gone.
bool Connection::answers() {
  CameraStorageInformation* stores = nullptr;
  int count = 0;
  const int code = g_.gp_camera_get_storageinfo(camera_, &stores, &count, context_);
  std::free(stores);
  return code >= GP_OK || code == GP_ERROR_NOT_SUPPORTED;
}

tl::unexpected<Error> Connection::failed(int code, const std::string& doing) {
  const std::string why = phrase(" ({}, while {})", g_.gp_result_as_string(code), doing);
  if (code == GP_ERROR_NO_SPACE || code == GP_ERROR_NO_MEMORY)
    return fail(ErrorCode::CardFull,
                phrase("The camera's card is full; put in another and go on. What was shot is kept."));
  if (code == GP_ERROR_IO_USB_CLAIM || code == GP_ERROR_IO_LOCK)
    return fail(ErrorCode::CameraRefused, phrase("Another program holds the camera; close it there (in the file "
                                                 "manager: eject the camera), then connect it again{}.",
                                                 why));
  if (lost(code) || (model_.empty() && code == GP_ERROR) || (!model_.empty() && !answers()))
    return fail(ErrorCode::CameraGone,
                phrase("The camera does not answer; see that it is on and awake, check cable, network and battery, and "
                       "that no other program holds it, then connect it again{}.",
                       why));
  return fail(ErrorCode::CameraRefused,
              phrase("The camera refuses{}; look at its screen, and at the mode it is in.", why));
}

WireSetting Connection::read(CameraWidget* widget) const {
  WireSetting s;
  const char* text = nullptr;
  if (g_.gp_widget_get_name(widget, &text) >= GP_OK && text) s.name = text;
  if (g_.gp_widget_get_label(widget, &text) >= GP_OK && text) s.label = text;
  CameraWidgetType type = GP_WIDGET_TEXT;
  g_.gp_widget_get_type(widget, &type);
  int readOnly = 0;
  g_.gp_widget_get_readonly(widget, &readOnly);
  s.readOnly = readOnly != 0;
  s.value = widgetText(g_, widget, type);
  if (type == GP_WIDGET_RADIO || type == GP_WIDGET_MENU)
    for (int i = 0; i < g_.gp_widget_count_choices(widget); ++i)
      if (g_.gp_widget_get_choice(widget, i, &text) >= GP_OK && text) s.choices.emplace_back(text);
  return s;
}

Result<std::map<std::string, WireSetting>> Connection::settings() {
  CameraWidget* top = nullptr;
  if (const int code = g_.gp_camera_get_config(camera_, &top, context_); code < GP_OK)
    return failed(code, phrase("reading its settings"));
  std::map<std::string, WireSetting> all;
  std::vector<CameraWidget*> waiting{top};
  while (!waiting.empty()) {
    CameraWidget* widget = waiting.back();
    waiting.pop_back();
    CameraWidgetType type = GP_WIDGET_TEXT;
    g_.gp_widget_get_type(widget, &type);
    if (isGroup(type)) {
      for (int i = 0; i < g_.gp_widget_count_children(widget); ++i) {
        CameraWidget* child = nullptr;
        if (g_.gp_widget_get_child(widget, i, &child) >= GP_OK) waiting.push_back(child);
      }
      continue;
    }
    auto setting = read(widget);
    all.emplace(setting.name, std::move(setting)); // the same one may be listed in two groups
  }
  g_.gp_widget_free(top);
  return all;
}

Result<WireSetting> Connection::setting(const std::string& name) {
  CameraWidget* widget = nullptr;
  if (const int code = g_.gp_camera_get_single_config(camera_, name.c_str(), &widget, context_); code < GP_OK)
    return failed(code, phrase("reading {}", name));
  auto setting = read(widget);
  g_.gp_widget_free(widget);
  return setting;
}

Result<bool> Connection::set(const std::string& name, const std::string& value) {
  CameraWidget* widget = nullptr;
  int code = g_.gp_camera_get_single_config(camera_, name.c_str(), &widget, context_);
  if (code < GP_OK) return failed(code, phrase("reading {}", name));
  CameraWidgetType type = GP_WIDGET_TEXT;
  g_.gp_widget_get_type(widget, &type);
  if (type == GP_WIDGET_TOGGLE) {
    const int number = std::atoi(value.c_str());
    code = g_.gp_widget_set_value(widget, &number);
  } else if (type == GP_WIDGET_RANGE) {
    const float number = std::strtof(value.c_str(), nullptr);
    code = g_.gp_widget_set_value(widget, &number);
  } else {
    code = g_.gp_widget_set_value(widget, value.c_str());
  }
  if (code >= GP_OK) code = g_.gp_camera_set_single_config(camera_, name.c_str(), widget, context_);
  g_.gp_widget_free(widget);
  // A camera that exposes takes no values: the library calls that bad ones.
  if (code == GP_ERROR_CAMERA_BUSY || code == GP_ERROR_BAD_PARAMETERS) return false;
  if (code < GP_OK) return failed(code, phrase("setting {} to {}", name, value));
  return true;
}

Result<bool> Connection::trigger() {
  const int code = g_.gp_camera_trigger_capture(camera_, context_);
  if (code == GP_ERROR_CAMERA_BUSY) return false;
  if (code < GP_OK) return failed(code, phrase("releasing the shutter"));
  return true;
}

Result<CameraEvent> Connection::event(std::chrono::milliseconds wait) {
  CameraEventType type = GP_EVENT_UNKNOWN;
  void* data = nullptr;
  if (const int code = g_.gp_camera_wait_for_event(camera_, int(wait.count()), &type, &data, context_); code < GP_OK)
    return failed(code, phrase("listening to it"));
  CameraEvent event;
  if (type == GP_EVENT_FILE_ADDED && data) {
    const auto* path = static_cast<const CameraFilePath*>(data);
    event = {CameraEvent::Kind::FileAdded, {path->folder, path->name}};
  } else if (type == GP_EVENT_CAPTURE_COMPLETE) {
    event.kind = CameraEvent::Kind::CaptureComplete;
  } else if (type != GP_EVENT_TIMEOUT) {
    const bool full = type == GP_EVENT_UNKNOWN && data && std::strstr(static_cast<const char*>(data), kStoreFull);
    event.kind = full ? CameraEvent::Kind::CardFull : CameraEvent::Kind::Other;
  }
  std::free(data);
  return event;
}

Result<void> Connection::fetch(const CameraFileName& name, const std::filesystem::path& target) {
  return writeAtomically(target, [&](const std::filesystem::path& temporary) -> Result<void> {
    const int descriptor = ::open(temporary.c_str(), O_RDWR | O_CREAT | O_TRUNC | O_CLOEXEC, 0644);
    CameraFile* file = nullptr;
    if (descriptor < 0 || g_.gp_file_new_from_fd(&file, descriptor) < GP_OK)
      return fail(ErrorCode::CannotWrite,
                  phrase("`{}` cannot be written ({}); choose another folder.", target.string(), std::strerror(errno)));
    const int code =
        g_.gp_camera_file_get(camera_, name.folder.c_str(), name.name.c_str(), GP_FILE_TYPE_NORMAL, file, context_);
    const auto size = ::lseek(descriptor, 0, SEEK_END);
    g_.gp_file_unref(file); // closes the descriptor
    if (code < GP_OK) return failed(code, phrase("fetching {}", name.name));
    if (size <= 0)
      return fail(ErrorCode::CannotWrite,
                  phrase("`{}` came empty; see that there is room on the disk, and fetch it again.", target.string()));
    return {};
  });
}

Result<void> Connection::listFolder(const std::string& folder, int depth, std::vector<CameraFileName>& out) {
  const NameList names(g_), folders(g_);
  if (const int code = g_.gp_camera_folder_list_files(camera_, folder.c_str(), names.list, context_); code < GP_OK)
    return failed(code, phrase("listing {}", folder));
  for (int i = 0; i < g_.gp_list_count(names.list) && out.size() < kMostFiles; ++i)
    out.push_back({folder, names.name(i)});
  if (depth >= kDeepestFolder ||
      g_.gp_camera_folder_list_folders(camera_, folder.c_str(), folders.list, context_) < GP_OK)
    return {};
  for (int i = 0; i < g_.gp_list_count(folders.list); ++i)
    if (auto listed = listFolder((folder == "/" ? "" : folder) + "/" + folders.name(i), depth + 1, out); !listed)
      return listed;
  return {};
}

Result<std::vector<CameraFileName>> Connection::files() {
  std::vector<CameraFileName> all;
  if (auto listed = listFolder("/", 0, all); !listed) return passOn(listed.error());
  return all;
}

std::optional<double> Connection::freeMegabytes() {
  CameraStorageInformation* stores = nullptr;
  int count = 0;
  if (g_.gp_camera_get_storageinfo(camera_, &stores, &count, context_) < GP_OK) return {};
  std::optional<double> most;
  for (int i = 0; i < count; ++i)
    if (stores[i].fields & GP_STORAGEINFO_FREESPACEKBYTES)
      most = std::max(most.value_or(0), double(stores[i].freekbytes) * 1024 / 1e6);
  std::free(stores);
  return most;
}

Result<std::vector<unsigned char>> Connection::preview() {
  CameraFile* file = nullptr;
  g_.gp_file_new(&file);
  const int code = g_.gp_camera_capture_preview(camera_, file, context_);
  const char* data = nullptr;
  unsigned long size = 0;
  std::vector<unsigned char> picture;
  if (code >= GP_OK && g_.gp_file_get_data_and_size(file, &data, &size) >= GP_OK)
    picture.assign(reinterpret_cast<const unsigned char*>(data), reinterpret_cast<const unsigned char*>(data) + size);
  g_.gp_file_unref(file);
  if (code < GP_OK) return failed(code, phrase("asking for its finder"));
  return picture;
}

} // namespace ml
