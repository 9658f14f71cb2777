# What the boards and gates of the quays run on.

module "north" {
  source = "./quay"

  name   = "north"
  dept   = 4
  boards = var.boards
}

module "south" {
  source = "./quay"

  name  = "south"
  depth = 3
}

resource "pier_gate" "north" {
  label = "${var.line}"
  quay  = module.north.adress
  opens = local.first_sailing

  ingress {
    from_port   = 22
    to_port     = 22
    cidr_blocks = ["0.0.0.0/0"]
  }
}

locals {
  first_sailing = "05:40"
  last_sailing  = "22:10"
}
