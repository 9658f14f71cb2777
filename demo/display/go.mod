module saltmarsh.example/display

go 1.18
