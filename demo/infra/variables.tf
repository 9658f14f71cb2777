variable "line" {
  description = "The line that the boards show."
  type        = string
}

variable "boards" {
  description = "How many boards a quay has."
  type        = number
  default     = 2
}
