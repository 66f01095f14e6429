// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"

#include <gphoto2/gphoto2.h>
#include <mutex>

namespace ml {

/// The functions of libgphoto2 that are used. The library is looked for when the program runs, so that the program
/// starts, and does all else, where it is not installed.
struct GPhoto {
#define ML_GPHOTO_FUNCTIONS(X)                                                                                         \
  X(gp_abilities_list_detect)                                                                                          \
  X(gp_abilities_list_free)                                                                                            \
  X(gp_abilities_list_get_abilities)                                                                                   \
  X(gp_abilities_list_load)                                                                                            \
  X(gp_abilities_list_lookup_model)                                                                                    \
  X(gp_abilities_list_new)                                                                                             \
  X(gp_camera_capture_preview)                                                                                         \
  X(gp_camera_exit)                                                                                                    \
  X(gp_camera_file_get)                                                                                                \
  X(gp_camera_folder_list_files)                                                                                       \
  X(gp_camera_folder_list_folders)                                                                                     \
  X(gp_camera_get_abilities)                                                                                           \
  X(gp_camera_get_config)                                                                                              \
  X(gp_camera_get_single_config)                                                                                       \
  X(gp_camera_get_storageinfo)                                                                                         \
  X(gp_camera_init)                                                                                                    \
  X(gp_camera_new)                                                                                                     \
  X(gp_camera_set_abilities)                                                                                           \
  X(gp_camera_set_port_info)                                                                                           \
  X(gp_camera_set_single_config)                                                                                       \
  X(gp_camera_trigger_capture)                                                                                         \
  X(gp_camera_unref)                                                                                                   \
  X(gp_camera_wait_for_event)                                                                                          \
  X(gp_context_new)                                                                                                    \
  X(gp_context_unref)                                                                                                  \
  X(gp_file_get_data_and_size)                                                                                         \
  X(gp_file_new)                                                                                                       \
  X(gp_file_new_from_fd)                                                                                               \
  X(gp_file_unref)                                                                                                     \
  X(gp_list_count)                                                                                                     \
  X(gp_list_free)                                                                                                      \
  X(gp_list_get_name)                                                                                                  \
  X(gp_list_get_value)                                                                                                 \
  X(gp_list_new)                                                                                                       \
  X(gp_port_info_list_free)                                                                                            \
  X(gp_port_info_list_get_info)                                                                                        \
  X(gp_port_info_list_load)                                                                                            \
  X(gp_port_info_list_lookup_path)                                                                                     \
  X(gp_port_info_list_new)                                                                                             \
  X(gp_result_as_string)                                                                                               \
  X(gp_widget_count_children)                                                                                          \
  X(gp_widget_count_choices)                                                                                           \
  X(gp_widget_free)                                                                                                    \
  X(gp_widget_get_child)                                                                                               \
  X(gp_widget_get_choice)                                                                                              \
  X(gp_widget_get_label)                                                                                               \
  X(gp_widget_get_name)                                                                                                \
  X(gp_widget_get_range)                                                                                               \
  X(gp_widget_get_readonly)                                                                                            \
  X(gp_widget_get_type)                                                                                                \
  X(gp_widget_get_value)                                                                                               \
  X(gp_widget_set_value)
#define ML_DECLARE(name) decltype(&::name) name = nullptr;
  ML_GPHOTO_FUNCTIONS(ML_DECLARE)
#undef ML_DECLARE

  /// The same one each time. MELLOW_LANTERN_CAMERA_LIBRARY names another file. Errors: CameraRefused with what to
  /// install.
  static Result<const GPhoto*> find();
  /// Held while lists are loaded and cameras opened: the library is not made for two threads there.
  static std::mutex& opening();
};

} // namespace ml
