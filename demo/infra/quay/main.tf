# One quay with its boards.

variable "name" {
  description = "The name that the boards show."
  type        = string
}

variable "depth" {
  description = "The depth at low water, in metres."
  type        = number
}

variable "boards" {
  description = "How many boards it has."
  type        = number
  default     = 1
}

resource "pier_board" "board" {
  count = var.boards
  title = "${var.name}: ${var.depth} m"
}

output "address" {
  description = "Where its boards are reached."
  value       = pier_board.board[*].address
}
